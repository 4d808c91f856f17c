import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { releasedPart, type CardContents } from '@/core/reports/card'
import { printCards as printPdf } from '@/formats/pdf/report-card'
import { config } from '@/server/platform/config'
import { refuse } from '@/server/platform/failure'
import { id } from '@/server/platform/inputs'
import { defineCommand, defineQuery, type Context } from '@/server/platform/registry'
import { storeDocument } from '@/server/documents/documents'
import { queueMails } from '@/server/mail/queue-mail'
import { askForWork } from '@/server/work/ask-for-work'
import { loadCards, loadRound } from './load-cards'
import { mayPrintCards, mayRelease } from './policy'
import { roundTopic } from './queries'

/** Asks for one PDF with the cards of a homeroom, or of the whole round. */
export const askForCards = defineCommand({
  name: 'reports.askForCards',
  input: z.object({ roundId: id, homeroomId: id.nullable() }),
  allow: mayPrintCards,
  run: async (context, { roundId, homeroomId }) => {
    const round = await loadRound(context, roundId)
    const homeroom = homeroomId
      ? await context.db.selectFrom('homeroom').select('name').where('id', '=', homeroomId).executeTakeFirst()
      : undefined
    const jobId = await askForWork(
      context,
      'print cards',
      `${round.name}, cards of ${homeroom?.name ?? 'everyone'}`,
      { roundId, homeroomId },
    )
    return { jobId }
  },
})

/** The contents the worker prints; asked in the name of who wanted the print. */
export const cardsToPrint = defineQuery({
  name: 'reports.cardsToPrint',
  input: z.object({ roundId: id, homeroomId: id.nullable() }),
  allow: mayPrintCards,
  run: (context, { roundId, homeroomId }) => loadCards(context, roundId, { homeroomId }),
})

/** Asks for the release of everything checked and not yet released. */
export const askForRelease = defineCommand({
  name: 'reports.askForRelease',
  input: z.object({ roundId: id }),
  allow: mayRelease,
  run: async (context, { roundId }) => {
    const round = await loadRound(context, roundId)
    const checked = await context.db
      .selectFrom('class_entries')
      .select('class_id')
      .where('round_id', '=', roundId)
      .where('state', '=', 'checked')
      .execute()
    if (checked.length === 0)
      throw refuse('No class entries are checked and waiting for release. Check some first.')
    const jobId = await askForWork(context, 'release cards', `${round.name}, release to guardians`, {
      roundId,
    })
    return { jobId }
  },
})

/** Students whose card would gain something by a release now, in card order. */
export const cardsToRelease = defineQuery({
  name: 'reports.cardsToRelease',
  input: z.object({ roundId: id }),
  allow: mayRelease,
  run: async (context, { roundId }) =>
    (await loadCards(context, roundId, {}))
      .filter((c) => c.lines.some((l) => l.checked))
      .map((c) => c.student.id),
})

const sameCard = (a: CardContents, b: CardContents) => {
  const bare = ({ printedOn: _printedOn, issue: _issue, attendance: _attendance, ...rest }: CardContents) =>
    JSON.stringify(rest, Object.keys(flat(rest)).sort())
  return bare(a) === bare(b)
}

/** Every key that occurs anywhere, so that two texts of the same data do not differ by the order of keys. */
function flat(value: unknown, keys: Record<string, true> = {}): Record<string, true> {
  if (Array.isArray(value)) for (const item of value) flat(item, keys)
  else if (value && typeof value === 'object')
    for (const [key, inner] of Object.entries(value)) {
      keys[key] = true
      flat(inner, keys)
    }
  return keys
}

async function tellGuardians(context: Context, card: CardContents, cardId: string) {
  const guardians = await context.db
    .selectFrom('guardianship as gs')
    .innerJoin('guardian as g', 'g.id', 'gs.guardian_id')
    .select(['g.id', 'g.given_name', 'g.family_name', 'g.email'])
    .where('gs.student_id', '=', card.student.id)
    .where('gs.may_receive_reports', '=', true)
    .where('g.email', 'is not', null)
    .execute()
  const follow = card.toFollow.length > 0 ? `\n\nStill to follow: ${card.toFollow.join(', ')}.` : ''
  await queueMails(
    context,
    guardians.map((g) => ({
      dedupe: `card:${cardId}:${g.id}`,
      toName: `${g.given_name} ${g.family_name}`,
      toAddress: g.email ?? '',
      subject: `${card.school}: report card of ${card.student.name}, ${card.term} term`,
      body: `Dear ${g.given_name} ${g.family_name},\n\nthe report card of ${card.student.name} for the ${card.term} term of ${card.year} is ready${card.issue > 1 ? ' in a new issue; it replaces the earlier one' : ''}. Sign in to read it: ${config().KEDGE_URL}/cards${follow}\n\n${card.school}`,
      studentId: card.student.id,
      guardianId: g.id,
    })),
  )
}

/**
 * Releases one student's card: what is checked, the rest named as to follow. The same contents are released once
 * only, so that work taken up again doubles nothing; other contents make a new issue and keep the old.
 */
export const releaseCard = defineCommand({
  name: 'reports.releaseCard',
  input: z.object({ roundId: id, studentId: id }),
  allow: mayRelease,
  run: async (context, { roundId, studentId }) => {
    const { db, actor, now } = context
    const [whole] = await loadCards(context, roundId, { studentIds: [studentId] })
    if (!whole) throw refuse('This student is not in the round.')
    const latest = await db
      .selectFrom('report_card')
      .select(['id', 'issue', 'contents'])
      .where('round_id', '=', roundId)
      .where('student_id', '=', studentId)
      .where('replaced_at', 'is', null)
      .forUpdate()
      .executeTakeFirst()
    const card: CardContents = { ...releasedPart(whole), issue: (latest?.issue ?? 0) + 1 }
    if (card.lines.length === 0 || (latest && sameCard(latest.contents as CardContents, card)))
      return { released: false }
    if (latest)
      await db.updateTable('report_card').set({ replaced_at: now }).where('id', '=', latest.id).execute()
    const { bytes, pageCount } = await printPdf([card])
    const documentId = await storeDocument(context, {
      name: `${card.student.name}, ${card.round}.pdf`,
      bytes,
      pageCount,
    })
    const cardId = uuid()
    await db
      .insertInto('report_card')
      .values({
        school_id: actor.schoolId,
        id: cardId,
        round_id: roundId,
        student_id: studentId,
        issue: card.issue,
        contents: JSON.stringify(card),
        left_out: [...card.toFollow],
        document_id: documentId,
        released_by: actor.name,
        released_at: now,
      })
      .execute()
    await tellGuardians(context, card, cardId)
    return { released: true }
  },
})

/** After the last card: what was checked counts as released. Only those checked before the release began. */
export const finishRelease = defineCommand({
  name: 'reports.finishRelease',
  input: z.object({ roundId: id, checkedBefore: z.iso.datetime() }),
  allow: mayRelease,
  run: async (context, { roundId, checkedBefore }) => {
    await context.db
      .updateTable('class_entries')
      .set((eb) => ({ state: 'released', version: eb('version', '+', 1) }))
      .where('round_id', '=', roundId)
      .where('state', '=', 'checked')
      .where('changed_at', '<=', new Date(checkedBefore))
      .execute()
    await context.changed(roundTopic(roundId))
    return null
  },
})

/** Keeps a finished print under the id of its work, so that work done twice stores it once. */
export const keepPrint = defineCommand({
  name: 'reports.keepPrint',
  input: z.object({
    roundId: id,
    homeroomId: id.nullable(),
    jobId: id,
    name: z.string().max(200),
    bytes: z.instanceof(Buffer),
    pageCount: z.number().int(),
  }),
  allow: mayPrintCards,
  run: async (context, { jobId, name, bytes, pageCount }) => ({
    documentId: await storeDocument(context, { documentId: jobId, name, bytes, pageCount }),
  }),
})
