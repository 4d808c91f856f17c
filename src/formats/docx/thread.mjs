// Begins a thread for work that is written in TypeScript. Plain JavaScript: a thread does not know TypeScript yet.
import { register } from 'tsx/esm/api'

register()
await import('./thread.ts')
