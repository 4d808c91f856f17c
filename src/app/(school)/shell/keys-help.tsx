'use client'
import { Button, KeyCap } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { useKeyGroups, type KeyGroup } from '@/screen/keys'

const everywhere: KeyGroup = {
  title: 'Everywhere',
  keys: [
    ['Ctrl K', 'Find a student, class, assessment or page'],
    ['?', 'This list'],
    ['↑ ↓, /', 'In a list: go along the rows; go to the filter'],
    [
      'Tab, then ← →',
      'On the year line: move the date by a day; Page Up and Page Down by a week; Home to today',
    ],
    ['digits or letters', 'On the year line: type a date, such as 20 Nov; Enter goes there'],
    ['Alt ↓', 'In a date field: open the calendar'],
  ],
}

/** The keys of this page, and those that work everywhere. */
export function KeysHelp({ onClose }: { onClose: () => void }) {
  return (
    <Dialog title="Keys" onClose={onClose}>
      {[...useKeyGroups(), everywhere].map((group) => (
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
      <Button kind="plain" onClick={onClose}>
        Close
      </Button>
    </Dialog>
  )
}
