'use client'
import type { FieldValues, Path } from 'react-hook-form'
import { FormSelect } from '@/screen/form/fields'
import type { CommandForm } from '@/screen/form/use-command-form'
import type { Structure } from './use-structure'

/** The room, where the school has any. */
export function RoomSelect<V extends FieldValues & { roomId: string }>({
  of,
  s,
}: {
  of: CommandForm<V>
  s: Structure
}) {
  if (s.rooms.length === 0) return null
  return (
    <FormSelect of={of} name={'roomId' as Path<V>} label="Room">
      <option value="">none</option>
      {s.rooms.map((room) => (
        <option key={room.id} value={room.id}>
          {room.name}
        </option>
      ))}
    </FormSelect>
  )
}
