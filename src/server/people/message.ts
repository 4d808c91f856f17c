import { sql } from 'kysely'
import { limits } from '@/core/limits'
import { z } from 'zod'
import { id } from '@/core/inputs'
import { messageInput } from '@/core/people/inputs'
import type { Context } from '@/server/platform/context'
import { defineCommand, defineQuery } from '@/server/platform/define'
import { queueMails } from '@/server/platform/mail'
import { guardianMessage } from './mails'
import { writeToGuardians } from './rights'
import { refuse } from './messages'

const to = z.object({
  studentIds: z.array(id).max(limits.recipients),
  guardianIds: z.array(id).max(limits.recipients),
})

interface Recipient {
  readonly id: string
  readonly name: string
  /** Null for somebody without an address. */
  readonly email: string | null
  readonly students: string
}

/**
 * The guardians of some students, or some guardians, each once, of those who may receive what the school sends. One
 * statement, however many.
 */
async function recipientsOf(
  { db }: Context,
  { studentIds, guardianIds }: z.infer<typeof to>,
): Promise<readonly Recipient[]> {
  const { rows } = await sql<Recipient>`
    select g.id, g.given_name || ' ' || g.family_name as name, nullif(g.email, '') as email,
      string_agg(s.sort_name, '; ' order by s.sort_name) as students
    from guardian g join guardianship r on r.guardian_id = g.id and r.may_receive_reports
      join student s on s.id = r.student_id
    where r.student_id = any(${studentIds}::uuid[]) or g.id = any(${guardianIds}::uuid[])
    group by g.school_id, g.id order by g.family_name, g.given_name, g.id`.execute(db)
  return rows
}

/** Who a message would reach, and who not for want of an address. */
export const recipients = defineQuery({
  input: to,
  right: writeToGuardians,
  run: async (context, asked) => {
    const all = await recipientsOf(context, asked)
    return {
      reached: all.filter((r) => r.email).length,
      withoutAddress: all.filter((r) => !r.email).map(({ name, students }) => ({ name, students })),
    }
  },
})

/** Mails a message to guardians, each by itself, so that nobody sees the address of another. */
export const writeMessage = defineCommand({
  input: messageInput,
  right: writeToGuardians,
  needsNoVersion: 'sends',
  run: async (context, asked) => {
    const reached = (await recipientsOf(context, asked)).filter((r) => r.email)
    if (reached.length === 0) throw refuse('nobodyReached', {})
    const { actor, runId } = context
    await queueMails(
      context,
      guardianMessage,
      reached.map((r) => ({
        dedupe: `message:${runId}:${r.id}`,
        toName: r.name,
        toAddress: r.email ?? '',
        guardianId: r.id,
        about: {
          subject: asked.subject,
          text: asked.text,
          guardian: r.name,
          sender: actor.name,
          school: actor.schoolName,
        },
      })),
    )
    return { sent: reached.length }
  },
})
