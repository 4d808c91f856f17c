import type { QueryOutput } from '@/server/registry'
import { RegisterState } from '@/app/(school)/attendance/register-state'

export type Lesson = QueryOutput<'attendance.lessonsOfDay'>['lessons'][number]

export const lessonHref = ({ classId, period }: Pick<Lesson, 'classId' | 'period'>, date: string) =>
  `/classes/${classId}/register?session=${period}&date=${date}`

/** How far the register of a lesson is; nothing where none is taken. */
export function LessonState({ lesson }: { lesson: Lesson }) {
  if (lesson.cancelled) return <span className="text-muted">cancelled</span>
  if (!lesson.register) return <span className="text-muted">no register</span>
  if (!lesson.begun) return <span className="text-muted">from {lesson.starts}</span>
  return <RegisterState marked={lesson.marked} onRoll={lesson.onRoll} />
}

/** The room of a lesson, and who gives it where that is not the teacher. */
export function LessonRoom({ lesson }: { lesson: Lesson }) {
  return (
    <span className={lesson.roomChanged ? 'font-bold' : ''}>
      {lesson.room ?? <span className="text-muted">no room</span>}
      {lesson.roomChanged && <span className="font-normal text-muted">, changed</span>}
    </span>
  )
}
