// The part "build" of npm test.
import { ensureBuild } from '../lib/bootstrap.mjs'

ensureBuild()
