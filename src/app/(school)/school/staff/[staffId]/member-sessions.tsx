'use client'
import { spokenName } from '@/core/people/names'
import { sendCommand } from '@/screen/server'
import { SessionsDialog } from '@/screen/sessions-dialog'
import { useAnswer } from '@/screen/use-live'
import type { Member } from './member'

/** Where a member of staff is signed in: for a telephone that was lost, or a computer left open. */
export function MemberSessions({ m, onClose }: { m: Member; onClose: () => void }) {
  const { answer, problem } = useAnswer('staff.sessions', { staffId: m.id })
  return (
    <SessionsDialog
      title={`Where ${spokenName(m.name)} is signed in`}
      description="Somebody who is signed out goes on by typing their password again. Nothing they typed is lost."
      sessions={answer}
      problem={problem}
      end={(sessionId) => sendCommand('staff.endSession', { staffId: m.id, sessionId })}
      onClose={onClose}
    />
  )
}
