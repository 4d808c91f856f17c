/* eslint-disable no-await-in-loop -- one statement for each academic year */
import type { Context } from '@/server/platform/context'

type Follower = (context: Context, span: { readonly from: string; readonly to: string }) => Promise<void>

const followers: Follower[] = []

/** Does something whenever the sessions of some days may have changed, in the same transaction. Told once, at the start. */
export const followSessions = (follower: Follower): void => void followers.push(follower)

/**
 * Says that sessions of some days may take place now that did not, or do so no more: a day lost its school, a lesson was
 * cancelled, a timetable changed. Called when it is written, and after an undo.
 * @param from the first day, YYYY-MM-DD
 * @param to the last one; until today at the latest without
 */
export async function sessionsMoved(
  context: Context,
  from: string,
  to: string = context.today,
): Promise<void> {
  const span = { from, to: to < context.today ? to : context.today }
  if (span.from > span.to) return
  for (const follower of followers) await follower(context, span)
}
