'use client'
import { usePathname } from 'next/navigation'
import { KeyCap } from '@/ui/button'
import { Dialog } from '@/ui/dialog'

type Keys = readonly (readonly [string, string])[]

const everywhere: Keys = [
  ['Ctrl K', 'Find a student, class, assessment or act'],
  ['?', 'This list'],
  [
    'Tab, then ← →',
    'On the year line: move the date by a day; Page Up and Page Down by a week; Home to today',
  ],
  ['digits or letters', 'On the year line: type a date, such as 20 Nov; Enter goes there'],
]

const pages: readonly { readonly at: RegExp; readonly title: string; readonly keys: Keys }[] = [
  {
    at: /\/register$/,
    title: 'In a register',
    keys: [
      ['P, L, A, A1 …', 'Type a code; it is saved at once. A waits, because A1 begins with it'],
      ['Enter', 'Take a waiting code, or go to the next student'],
      ['↑ ↓', 'Previous and next student'],
      ['.', 'Mark the rest present'],
      ['N, after Tab', 'Write a note beside a mark'],
      ['/', 'Note on the chosen mark'],
      ['Backspace', 'Clear the mark'],
      ['Ctrl Z', 'Undo'],
    ],
  },
  {
    at: /\/gradebook$/,
    title: 'In a gradebook',
    keys: [
      ['↑ ↓ ← →', 'Move between cells'],
      ['digits', 'Type a score; Enter keeps it and goes down'],
      ['m, e', 'Missing, excused'],
      ['Backspace', 'Empty the cell'],
      ['Ctrl D', 'Fill the cells below that are empty with this one'],
      ['Ctrl C, Ctrl V', 'Copy the column; paste one from a spreadsheet'],
      ['Ctrl Z', 'Undo'],
      ['Escape', 'Give up what is being typed'],
    ],
  },
  {
    at: /\/answers$/,
    title: 'Typing answers',
    keys: [
      ['A to J', 'One letter a question; . for one left out'],
      ['Enter or ↓', 'Next student'],
      ['↑', 'Previous student'],
    ],
  },
  {
    at: /\/reports\/.*\/classes\//,
    title: 'Writing report entries',
    keys: [
      ['Ctrl ↓, Ctrl ↑', 'Next and previous student'],
      ['1 to 4', 'On the effort buttons: excellent, good, uneven, low'],
    ],
  },
]

/** The keys of this page, and those that work everywhere. */
export function KeysHelp({ onClose }: { onClose: () => void }) {
  const path = usePathname()
  const here = pages.filter((p) => p.at.test(path))
  return (
    <Dialog title="Keys" onClose={onClose}>
      {[...here, { title: 'Everywhere', keys: everywhere }].map((group) => (
        <section key={group.title} className="mb-4">
          <h2 className="mb-1">{group.title}</h2>
          <dl className="grid grid-cols-[130px_1fr] gap-y-1">
            {group.keys.map(([key, act]) => (
              <div key={key + act} className="contents">
                <dt>
                  <KeyCap>{key}</KeyCap>
                </dt>
                <dd>{act}</dd>
              </div>
            ))}
          </dl>
        </section>
      ))}
    </Dialog>
  )
}
