'use client'
import { Button, KeyCap } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { Tick } from '@/ui/field'
import { useKeyChoice, useSetKeyChoice } from '@/screen/key-choice'
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
      <p className="mb-4 text-[13px] text-muted">
        On the year line, blue is term time and buff is a break or a public holiday. A flag stands on the day
        on which a report round is due.
      </p>
      <SingleKeys />
      <Button kind="plain" onClick={onClose}>
        Close
      </Button>
    </Dialog>
  )
}

/** Single keys can be switched off, for who steers by voice or strikes keys by accident. */
function SingleKeys() {
  const choice = useKeyChoice()
  const set = useSetKeyChoice()
  return (
    <fieldset className="mb-4">
      <legend className="mb-1 font-bold">Single keys, on this device</legend>
      <Tick label="? opens this list" checked={choice.help} onChange={(e) => set('help', e.target.checked)} />
      <Tick
        label=". marks the rest present in a register"
        checked={choice.rest}
        onChange={(e) => set('rest', e.target.checked)}
      />
    </fieldset>
  )
}
