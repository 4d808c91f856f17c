'use client'
import { useEffect } from 'react'
import { shortDate } from '@/core/calendar/date-words'
import { useClock } from '@/screen/clock'
import { useSchool } from '@/screen/school-context'

const quoted = (text: string) => `"${text.replace(/["\\\n]/g, ' ')}"`

/** At the foot of every printed page: school, when and by whom it was printed, and the number of the page. */
export function usePrintFoot(): void {
  const { schoolName, actor, today } = useSchool()
  const { time } = useClock()
  useEffect(() => {
    const sheet = new CSSStyleSheet()
    document.adoptedStyleSheets = [...document.adoptedStyleSheets, sheet]
    const write = () => {
      const what = `${schoolName}. Printed by ${actor.name}, ${shortDate(today, true)}, ${time(Date.now())}`
      const look = 'font: 9pt sans-serif; color: #536a7b;'
      sheet.replaceSync(
        `@page { @bottom-left { content: ${quoted(what)}; ${look} } @bottom-right { content: counter(page) " of " counter(pages); ${look} } }`,
      )
    }
    write()
    window.addEventListener('beforeprint', write)
    return () => {
      window.removeEventListener('beforeprint', write)
      document.adoptedStyleSheets = document.adoptedStyleSheets.filter((one) => one !== sheet)
    }
  }, [schoolName, actor.name, today, time])
}
