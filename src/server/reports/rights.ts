import { sql } from 'kysely'
import { staffRoles } from '@/server/platform/actor'
import { onlyRoles, type Right } from '@/server/platform/rights'
import { isGuardianOf, looksAfterHomeroom, teachesClass } from '@/server/school/relations'

interface EntriesKey {
  readonly roundId: string
  readonly classId: string
}

const ofEntries = {
  object: 'class',
  of: ({ classId }: EntriesKey) => classId,
  and: ({ roundId, classId }: EntriesKey) =>
    sql<boolean>`exists (select 1 from class_entries e where e.round_id = ${roundId} and e.class_id = ${classId})`,
} as const

const lead = { roles: ['administrator', 'head'] } as const

/** The class's teacher writes. */
export const writeEntries: Right<EntriesKey> = {
  words: "write a class's report entries",
  grants: [{ roles: staffRoles, when: teachesClass }],
  ...ofEntries,
}

/** Writer and checker read the same page. */
export const readEntries: Right<EntriesKey> = {
  words: "read a class's report entries",
  grants: [lead, { roles: staffRoles, when: teachesClass }],
  ...ofEntries,
}

/** The head checks and sends back. */
export const checkEntries: Right<EntriesKey> = {
  words: "check a class's report entries",
  grants: [lead],
  ...ofEntries,
}

/** Whoever teaches a class, and the head, see what fills its reports. */
export const seeFeeds: Right<{ classId: string }> = {
  words: 'see what fills the lines of reports',
  grants: [lead, { roles: staffRoles, when: teachesClass }],
  object: 'class',
  of: ({ classId }) => classId,
}

/** The same people say what fills them; one class that is not theirs stops all. */
export const feedLines: Right<{ classId: string }> = {
  ...seeFeeds,
  words: 'say what fills the lines of reports',
}

export const feedAll: Right<{ roundId: string; feeds: readonly { classId: string }[] }> = {
  words: feedLines.words,
  grants: feedLines.grants,
  object: 'class',
  of: ({ feeds }) => feeds.map((f) => f.classId),
  and: ({ roundId }) => sql<boolean>`exists (select 1 from report_round r where r.id = ${roundId})`,
}

const ofRound = { object: 'reportRound', of: ({ roundId }: { roundId: string }) => roundId } as const

export const listRounds = onlyRoles('see the report rounds', 'administrator', 'head', 'office', 'teacher')

/** All staff who write or print see how a round stands. */
export const seeRound: Right<{ roundId: string }> = {
  words: 'see how a report round stands',
  grants: [{ roles: ['administrator', 'head', 'office', 'teacher'] }],
  ...ofRound,
}

/** The head releases. */
export const releaseCards: Right<{ roundId: string }> = {
  words: 'release report cards',
  grants: [lead],
  ...ofRound,
}

/** Head and office print all cards; a homeroom teacher those of the own homeroom. */
export const printCards: Right<{ roundId: string; homeroomId?: string | null }> = {
  words: 'print report cards',
  grants: [{ roles: ['administrator', 'head', 'office'] }, { roles: ['teacher'], when: looksAfterHomeroom }],
  object: 'homeroom',
  of: ({ homeroomId }) => homeroomId,
  and: ({ roundId }) => sql<boolean>`exists (select 1 from report_round r where r.id = ${roundId})`,
}

export const seeOwnCards = onlyRoles("read one's children's released cards", 'guardian')

/** Who reads a released card, judged by its student. */
export const readCard: Right<{ studentId: string }> = {
  words: 'read a released report card',
  grants: [{ roles: ['administrator', 'head', 'office'] }, { roles: ['guardian'], when: isGuardianOf }],
  object: 'student',
  of: ({ studentId }) => studentId,
}
