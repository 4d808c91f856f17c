import { charactersWithoutFont } from '@/formats/pdf/fonts'
import type { Context } from '@/server/platform/context'

/** A text of a card with the characters that no shipped font has. */
interface Unprintable {
  readonly student: string
  readonly where: string
  readonly characters: string
}

/** Names and comments in the checked entries of a round that could not be printed whole; at most twenty. */
export async function findUnprintable({ db }: Context, roundId: string): Promise<readonly Unprintable[]> {
  const rows = await db
    .selectFrom('classEntries as e')
    .innerJoin('class as c', 'c.id', 'e.classId')
    .innerJoin('reportEntry as x', (j) =>
      j.onRef('x.roundId', '=', 'e.roundId').onRef('x.classId', '=', 'e.classId'),
    )
    .innerJoin('student as s', 's.id', 'x.studentId')
    .select([
      'c.name as className',
      'x.comment',
      's.id',
      's.sortName',
      's.legalGivenName',
      's.legalFamilyName',
      's.preferredName',
    ])
    .where('e.roundId', '=', roundId)
    .where('e.state', 'in', ['checked', 'released'])
    .orderBy('s.sortName')
    .execute()
  const found = new Map<string, Unprintable>()
  for (const row of rows) {
    const look = (where: string, text: string) => {
      const characters = charactersWithoutFont(text)
      if (characters) found.set(`${row.id} ${where}`, { student: row.sortName, where, characters })
    }
    look('name', `${row.legalGivenName} ${row.legalFamilyName} ${row.preferredName ?? ''}`)
    look(row.className, row.comment)
  }
  return [...found.values()].slice(0, 20)
}
