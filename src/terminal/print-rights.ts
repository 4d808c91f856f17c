import { nameOf, type AnyCommand, type AnyQuery } from '@/server/platform/define'
import { rightInWords } from '@/server/platform/rights'
import { commands, queries } from '@/server/registry'

const alone = { job: 'background work', server: 'the server itself' } as const

/** The table of rights as Markdown: every query and command with who may, in the order of their names. */
export function printRights(): string {
  const line = (entry: AnyQuery | AnyCommand) =>
    `| ${nameOf(entry)} | ${entry.right.words} | ${rightInWords(entry.right)}${entry.by ? ` (${alone[entry.by]} only)` : ''} |`
  const table = (title: string, entries: Iterable<AnyQuery | AnyCommand>) =>
    [
      `## ${title}`,
      '',
      '| name | right | who |',
      '| --- | --- | --- |',
      ...[...entries].map(line).sort(),
      '',
    ].join('\n')
  return [
    '# Rights',
    '',
    'Printed by `npm run kedge -- rights` from the code; a test compares the two. A role without "who" may with every',
    'object of the school. What an object of another school is, nobody learns: it is answered like one that does not exist.',
    '',
    table('Reads', queries.values()),
    table('Changes', commands.values()),
  ].join('\n')
}
