interface Named {
  readonly id: string
  readonly name: string
}

export interface LessonParts {
  /** The classes of the year, each with the room it usually has. */
  readonly classes: readonly (Named & { readonly roomId: string | null })[]
  readonly rooms: readonly Named[]
}

export interface LessonPlace {
  readonly classId: string
  readonly roomId: string | null
}

const plain = (text: string) => text.trim().toLowerCase()
const named = <T extends Named>(list: readonly T[], text: string) =>
  list.find((x) => plain(x.name) === plain(text))

/**
 * Reads a lesson as it is typed into a timetable: `7 Science A`, `7 Science A, Lab 2`, and where the table is of one
 * class or room, the other alone. A class without a room takes the one it usually has.
 * @param of the class or room that the table is of
 * @returns the lesson, null for an empty cell, or what is wrong
 */
export function readLesson(
  text: string,
  { classes, rooms }: LessonParts,
  of: { readonly classId?: string; readonly roomId?: string } = {},
): LessonPlace | null | { readonly problem: string } {
  if (text.trim() === '') return null
  const own = classes.find((c) => c.id === of.classId)
  const room = named(rooms, text)
  if (own && room) return { classId: own.id, roomId: room.id }
  const comma = text.lastIndexOf(',')
  const whole = named(classes, text)
  const [className, roomName] =
    whole || comma < 0 ? [text, ''] : [text.slice(0, comma), text.slice(comma + 1)]
  const found = whole ?? named(classes, className)
  if (!found)
    return {
      problem: own
        ? `"${text.trim()}" is not a room. Type a room, or ${own.name} for a lesson in its usual room.`
        : `"${className.trim()}" is not a class. Type a class, or class and room with a comma between them.`,
    }
  if (own && found.id !== own.id)
    return { problem: `This table is of ${own.name}. Choose ${found.name} above.` }
  if (roomName.trim() === '') return { classId: found.id, roomId: of.roomId ?? found.roomId }
  const place = named(rooms, roomName)
  if (!place) return { problem: `"${roomName.trim()}" is not a room. Rooms are listed under School, Rooms.` }
  return { classId: found.id, roomId: place.id }
}

/** A lesson as it stands in a cell: without what the table is of. */
export function lessonText(
  { classId, roomId }: LessonPlace,
  { classes, rooms }: LessonParts,
  of: { readonly classId?: string; readonly roomId?: string } = {},
): string {
  const name = classes.find((c) => c.id === classId)?.name ?? 'a class of another year'
  const room = rooms.find((r) => r.id === roomId)?.name
  if (of.classId !== undefined) return room ?? name
  return room === undefined || of.roomId !== undefined ? name : `${name}, ${room}`
}
