import { hasRole } from '@/server/platform/actor'
import type { Context } from '@/server/platform/registry'
import { teachesClass } from '@/server/platform/relations'

interface EntriesKey {
  roundId: string
  classId: string
}

async function entriesThere({ db }: Context, { roundId, classId }: EntriesKey): Promise<boolean> {
  const found = await db
    .selectFrom('class_entries')
    .select('state')
    .where('round_id', '=', roundId)
    .where('class_id', '=', classId)
    .executeTakeFirst()
  return found !== undefined
}

async function roundThere({ db }: Context, { roundId }: { roundId: string }): Promise<boolean> {
  return (
    (await db.selectFrom('report_round').select('id').where('id', '=', roundId).executeTakeFirst()) !==
    undefined
  )
}

/** The class's teacher writes. */
export async function mayWriteEntries(context: Context, input: EntriesKey): Promise<boolean> {
  return (await teachesClass(context, input.classId)) && entriesThere(context, input)
}

/** Writer and checker read the same page. */
export async function mayReadEntries(context: Context, input: EntriesKey): Promise<boolean> {
  if (hasRole(context.actor, 'administrator', 'head')) return entriesThere(context, input)
  return mayWriteEntries(context, input)
}

/** The head checks and sends back. */
export async function mayCheckEntries(context: Context, input: EntriesKey): Promise<boolean> {
  return hasRole(context.actor, 'administrator', 'head') && entriesThere(context, input)
}

/** All staff who write or print see how a round stands. */
export async function maySeeRound(context: Context, input: { roundId: string }): Promise<boolean> {
  return hasRole(context.actor, 'administrator', 'head', 'office', 'teacher') && roundThere(context, input)
}

/** Head and office print cards; a homeroom teacher those of the own homeroom. */
export async function mayPrintCards(
  context: Context,
  input: { roundId: string; homeroomId?: string | null },
): Promise<boolean> {
  if (!(await roundThere(context, input))) return false
  if (hasRole(context.actor, 'administrator', 'head', 'office')) return true
  return (
    hasRole(context.actor, 'teacher') &&
    input.homeroomId != null &&
    isHomeroomTeacher(context, input.homeroomId)
  )
}

async function isHomeroomTeacher({ db, actor, today }: Context, homeroomId: string): Promise<boolean> {
  const rows = await db
    .selectFrom('homeroom_teacher')
    .select('period')
    .where('homeroom_id', '=', homeroomId)
    .where('staff_id', '=', actor.personId)
    .execute()
  return rows.some(({ period }) => {
    const [from = '', until = ''] = period.slice(1, -1).split(',')
    return from <= today && (until === '' || today < until)
  })
}

/** The head releases. */
export async function mayRelease(context: Context, input: { roundId: string }): Promise<boolean> {
  return hasRole(context.actor, 'administrator', 'head') && roundThere(context, input)
}
