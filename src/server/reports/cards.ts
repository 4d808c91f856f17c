/* eslint-disable no-await-in-loop -- each card is kept as it is drawn */
import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { limits } from '@/core/limits'
import { releasedPart, type CardContents } from '@/core/reports/card'
import { printCards as drawCards } from '@/formats/pdf/report-card'
import { config } from '@/server/platform/config'
import type { Context } from '@/server/platform/context'
import { defineCommand, defineQuery } from '@/server/platform/define'
import { storeFile } from '@/server/platform/files'
import { id } from '@/core/inputs'
import { defineJob, startJob } from '@/server/platform/job'
import { queueMails } from '@/server/platform/mail'
import { loadCards, loadRound } from './load-cards'
import { cardReady } from './mails'
import { printCards, releaseCards } from './rights'
import { sameCard } from './same-card'
import { roundTopic } from './topics'
import { findUnprintable } from './unprintable'
import { refuse } from './messages'

const whichCards = z.object({ roundId: id, homeroomId: id.nullable() })

/** The contents the worker prints; asked in the name of who wanted the print. */
export const cardsToPrint = defineQuery({
  input: whichCards,
  right: printCards,
  run: (context, { roundId, homeroomId }) => loadCards(context, roundId, { homeroomId }),
})

/** Keeps a finished print under the id of its work, so that work done twice stores it once. */
export const keepPrint = defineCommand({
  input: whichCards.extend({
    jobId: id,
    name: z.string(),
    bytes: z.instanceof(Buffer),
    pageCount: z.number().int().min(1).max(limits.pages),
  }),
  right: printCards,
  needsNoVersion: 'creates',
  by: 'job',
  run: async (context, { jobId, name, bytes, pageCount }) => ({
    documentId: await storeFile(context, { purpose: 'print', documentId: jobId, name, bytes, pageCount }),
  }),
})

/** One PDF with the cards of a homeroom, or of the whole round. */
export const printJob = defineJob({
  input: whichCards,
  right: printCards,
  about: 'homeroomId',
  run: async (steps, which) => {
    const cards = await steps.query(cardsToPrint, which)
    if (cards.length === 0) throw refuse('nothingToPrint', {})
    const { bytes, pageCount } = await drawCards(cards, async (done) => {
      await steps.progress(done, cards.length)
      return 'go on'
    })
    const name = `${steps.title}.pdf`
    const { documentId } = await steps.execute(keepPrint, {
      ...which,
      jobId: steps.jobId,
      name,
      bytes,
      pageCount,
    })
    return { message: `${cards.length} cards on ${pageCount} pages`, documentId }
  },
})

/** Asks for one PDF with the cards of a homeroom, or of the whole round. */
export const askForCards = defineCommand({
  input: whichCards,
  right: printCards,
  needsNoVersion: 'starts work',
  run: async (context, which) => {
    const round = await loadRound(context, which.roundId)
    const homeroom = which.homeroomId
      ? await context.db
          .selectFrom('homeroom')
          .select('name')
          .where('id', '=', which.homeroomId)
          .executeTakeFirst()
      : undefined
    const title = `${round.name}, cards of ${homeroom?.name ?? 'everyone'}`
    return { jobId: await startJob(context, printJob, which, { title }) }
  },
})

const oneCard = z.object({ roundId: id, studentId: id })

/** What a student's card would be if it were released now; undefined when that would be what is released already. */
async function nextIssue(
  context: Context,
  { roundId, studentId }: z.infer<typeof oneCard>,
): Promise<{ card: CardContents; replaces: string | undefined } | undefined> {
  const [whole] = await loadCards(context, roundId, { studentIds: [studentId] })
  if (!whole) throw refuse('notInRound', {})
  const latest = await context.db
    .selectFrom('reportCard')
    .select(['id', 'issue', 'contents'])
    .where('roundId', '=', roundId)
    .where('studentId', '=', studentId)
    .where('replacedAt', 'is', null)
    .executeTakeFirst()
  const card: CardContents = { ...releasedPart(whole), issue: (latest?.issue ?? 0) + 1 }
  const isNew = card.lines.length > 0 && !(latest && sameCard(latest.contents as CardContents, card))
  return isNew ? { card, replaces: latest?.id } : undefined
}

/** The card that a release would make for a student now, or null when there is nothing new. */
export const cardToRelease = defineQuery({
  input: oneCard,
  right: releaseCards,
  run: async (context, which) => (await nextIssue(context, which))?.card ?? null,
})

/** Students whose card shows something that is checked, in card order. */
export const cardsToRelease = defineQuery({
  input: z.object({ roundId: id }),
  right: releaseCards,
  run: async (context, { roundId }) =>
    (await loadCards(context, roundId, {}))
      .filter((c) => c.lines.some((l) => l.checked))
      .map((c) => c.student.id),
})

async function tellGuardians(context: Context, card: CardContents, cardId: string) {
  const guardians = await context.db
    .selectFrom('guardianship as gs')
    .innerJoin('guardian as g', 'g.id', 'gs.guardianId')
    .select(['g.id', 'g.givenName', 'g.familyName', 'g.email'])
    .where('gs.studentId', '=', card.student.id)
    .where('gs.mayReceiveReports', '=', true)
    .where('g.email', 'is not', null)
    .execute()
  await queueMails(
    context,
    cardReady,
    guardians.map((g) => ({
      dedupe: `card:${cardId}:${g.id}`,
      toName: `${g.givenName} ${g.familyName}`,
      toAddress: g.email ?? '',
      about: {
        school: card.school,
        guardian: `${g.givenName} ${g.familyName}`,
        student: card.student.name,
        term: card.term,
        year: card.year,
        issue: card.issue,
        toFollow: card.toFollow,
        url: `${config().KEDGE_URL}/report-cards`,
      },
      studentId: card.student.id,
      guardianId: g.id,
    })),
  )
}

/**
 * Keeps one student's drawn card as released, and tells the guardians. What was drawn must still be what the data
 * says; otherwise nothing is kept and the card is drawn again. The same contents are released once only.
 */
export const keepIssue = defineCommand({
  input: oneCard.extend({
    card: z.custom<CardContents>(),
    bytes: z.instanceof(Buffer),
    pageCount: z.number().int().min(1).max(limits.pages),
  }),
  right: releaseCards,
  needsNoVersion: 'compares the whole card',
  by: 'job',
  moment: 'one',
  run: async (context, { roundId, studentId, card, bytes, pageCount }) => {
    const { db, actor, now } = context
    const next = await nextIssue(context, { roundId, studentId })
    if (!next) return { kept: 'nothing new' } as const
    if (next.card.issue !== card.issue || !sameCard(next.card, card)) return { kept: 'changed' } as const
    if (next.replaces)
      await db.updateTable('reportCard').set({ replacedAt: now }).where('id', '=', next.replaces).execute()
    const documentId = await storeFile(context, {
      purpose: 'print',
      name: `${card.student.name}, ${card.round}.pdf`,
      bytes,
      pageCount,
    })
    const cardId = uuid()
    await db
      .insertInto('reportCard')
      .values({
        schoolId: actor.schoolId,
        id: cardId,
        roundId,
        studentId,
        issue: card.issue,
        contents: JSON.stringify(card),
        leftOut: [...card.toFollow],
        documentId,
        releasedBy: actor.name,
        releasedAt: now,
      })
      .execute()
    await tellGuardians(context, card, cardId)
    context.changed(roundTopic(roundId))
    return { kept: 'released' } as const
  },
})

/** After the last card: what was checked counts as released. Only those checked before the release began. */
export const finishRelease = defineCommand({
  input: z.object({ roundId: id, checkedBefore: z.iso.datetime() }),
  right: releaseCards,
  needsNoVersion: 'only what was checked before',
  by: 'job',
  run: async (context, { roundId, checkedBefore }) => {
    await context.db
      .updateTable('classEntries')
      .set({ state: 'released' })
      .where('roundId', '=', roundId)
      .where('state', '=', 'checked')
      .where('changedAt', '<=', checkedBefore)
      .execute()
    context.changed(roundTopic(roundId))
    return null
  },
})

/** How often a card that changes while it is drawn is drawn again. */
const drawings = 5

/** Releases everything that is checked, card by card; each is drawn outside of any transaction. */
export const releaseJob = defineJob({
  input: z.object({ roundId: id }),
  right: releaseCards,
  run: async (steps, { roundId }) => {
    const students = await steps.query(cardsToRelease, { roundId })
    let released = 0
    await steps.each(
      students,
      (studentId) => studentId,
      async (studentId) => {
        for (let drawn = 0; drawn < drawings; drawn++) {
          const card = await steps.query(cardToRelease, { roundId, studentId })
          if (!card) return
          const { bytes, pageCount } = await drawCards([card])
          const { kept } = await steps.execute(keepIssue, { roundId, studentId, card, bytes, pageCount })
          if (kept === 'released') released++
          if (kept !== 'changed') return
        }
        throw new Error(`the card of ${studentId} changed each time it was drawn`)
      },
    )
    await steps.execute(finishRelease, { roundId, checkedBefore: steps.createdAt })
    const before = students.length - released
    return {
      message:
        before === 0
          ? `${released} cards released`
          : `${released} cards released; ${before} had been released before and are unchanged`,
    }
  },
})

/**
 * Asks for the release of everything checked and not yet released. Characters that no font can print are named
 * first; `withoutThem` releases all the same.
 */
export const askForRelease = defineCommand({
  input: z.object({ roundId: id, withoutThem: z.boolean().default(false) }),
  right: releaseCards,
  needsNoVersion: 'starts work',
  run: async (context, { roundId, withoutThem }) => {
    const round = await loadRound(context, roundId)
    const checked = await context.db
      .selectFrom('classEntries')
      .select('classId')
      .where('roundId', '=', roundId)
      .where('state', '=', 'checked')
      .execute()
    if (checked.length === 0) throw refuse('noneChecked', {})
    if (!withoutThem) {
      const cards = await findUnprintable(context, roundId)
      if (cards.length > 0) throw refuse('cannotPrint', { cards })
    }
    const title = `${round.name}, release to guardians`
    return {
      jobId: await startJob(context, releaseJob, { roundId }, { title, aliveOnce: `release ${roundId}` }),
    }
  },
})
