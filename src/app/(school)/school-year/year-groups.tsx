'use client'
import { useRouter } from 'next/navigation'
import { useState, type FormEvent } from 'react'
import { Button } from '@/ui/button'
import { Field, Problem, TextArea, TextInput } from '@/ui/field'
import { newKey, tellServer } from '@/screen/server'

const lines = (text: string) =>
  text
    .split(/[\n,]+/)
    .map((t) => t.trim())
    .filter(Boolean)

/** Adds year groups in order, with the same homerooms in each. */
export function YearGroups({ yearId, open }: { yearId: string; open: boolean }) {
  const router = useRouter()
  const [shown, setShown] = useState(open)
  const [names, setNames] = useState('')
  const [homerooms, setHomerooms] = useState('')
  const [told, setTold] = useState<{ text: string; wrong: boolean }>()
  const [key, setKey] = useState(newKey)
  async function submit(event: FormEvent) {
    event.preventDefault()
    const result = await tellServer(
      'year.addYearGroups',
      { yearId, names: lines(names), homerooms: lines(homerooms) },
      key,
    )
    setKey(newKey())
    if (!result.ok) return setTold({ text: result.failure.message, wrong: true })
    setTold({
      text: `${result.value.yearGroups} year groups and ${result.value.homerooms} homerooms are there. Students can be enrolled now, under People.`,
      wrong: false,
    })
    setNames('')
    router.refresh()
  }
  if (!shown)
    return (
      <Button kind="plain" onClick={() => setShown(true)}>
        Add year groups
      </Button>
    )
  return (
    <form onSubmit={(e) => void submit(e)} className="grid max-w-xl gap-3">
      {told &&
        (told.wrong ? (
          <Problem>{told.text}</Problem>
        ) : (
          <p role="status" className="hint">
            {told.text}
          </p>
        ))}
      <Field label="Year groups, one a line, youngest first" help="For example Year 1, Year 2, Year 3">
        {(f) => <TextArea {...f} rows={4} value={names} onChange={(e) => setNames(e.target.value)} />}
      </Field>
      <Field
        label="Homerooms in each of them"
        help="One or several words, for example Tern, Plover; the year group's number comes before"
      >
        {(f) => <TextInput {...f} value={homerooms} onChange={(e) => setHomerooms(e.target.value)} />}
      </Field>
      <p>
        <Button type="submit">Add</Button>
      </p>
    </form>
  )
}
