import type { Context } from './context'

const asked = new WeakMap<Context['db'], Map<string, Promise<unknown>>>()

/**
 * Looks something up once in a moment, however many parts of a page ask for it. In a command, which changes what there
 * is, everybody looks for themselves.
 * @param what names what is looked up, with all that the answer depends on
 */
export function once<T>({ db, runId }: Context, what: string, look: () => Promise<T>): Promise<T> {
  if (runId !== '') return look()
  const known = asked.get(db) ?? new Map<string, Promise<unknown>>()
  asked.set(db, known)
  const answer = (known.get(what) as Promise<T> | undefined) ?? look()
  known.set(what, answer)
  return answer
}
