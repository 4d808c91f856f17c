/** What is being asked, by its name: the answer under way, and the one that was asked for meanwhile. */
const asking = new Map<string, { running: Promise<void>; next?: Promise<void> }>()

/**
 * Asks, and never twice at once: what is asked for while an answer is under way is asked once more when that is there.
 * An answer under way is never given up, or nothing would be shown for as long as changes come faster than answers.
 * @param name what is asked
 * @param ask asks it, and settles when the answer is shown
 * @param isStuck whether the answer under way has failed and waits to be tried again: then nothing is lost by asking anew
 * @returns settles with an answer that was begun no earlier than this call
 */
export function askAgain(
  name: string,
  ask: () => Promise<void>,
  isStuck: () => boolean = () => false,
): Promise<void> {
  const begin = (): Promise<void> => {
    const own = { running: ask() } as { running: Promise<void>; next?: Promise<void> }
    asking.set(name, own)
    const end = () => {
      if (asking.get(name) === own && !own.next) asking.delete(name)
    }
    own.running.then(end, end)
    return own.running
  }
  const now = asking.get(name)
  if (!now || isStuck()) return begin()
  return (now.next ??= now.running.then(begin, begin))
}
