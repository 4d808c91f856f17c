import { sql } from 'kysely'
import { hasRole } from '@/server/platform/actor'
import type { Context } from '@/server/platform/registry'

/**
 * Who may read a stored document follows from what it is part of: an assessment (all who teach or lead), a report
 * card (head and office; the guardians of the student once it is released), or the result of background work
 * (the person who asked for it).
 */
export async function mayReadDocument(
  { db, actor }: Context,
  { documentId }: { documentId: string },
): Promise<boolean> {
  const staff = hasRole(actor, 'administrator', 'head', 'teacher')
  const office = hasRole(actor, 'administrator', 'head', 'office')
  const { rows } = await sql<{ may: boolean }>`
    select (${staff} and exists (select 1 from assessment a where a.document_id = d.id))
      or (${staff} and d.created_by = ${actor.accountId})
      or exists (select 1 from job j where j.document_id = d.id and j.account_id = ${actor.accountId})
      or (${office} and exists (select 1 from report_card c where c.document_id = d.id))
      or (${hasRole(actor, 'guardian')} and exists (
        select 1 from report_card c join guardianship g on g.school_id = c.school_id and g.student_id = c.student_id
        where c.document_id = d.id and g.guardian_id = ${actor.personId} and g.may_receive_reports)) as may
    from document d where d.id = ${documentId}`.execute(db)
  return rows[0]?.may ?? false
}
