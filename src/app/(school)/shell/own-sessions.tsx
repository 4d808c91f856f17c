'use client'
import { sendCommand } from '@/screen/server'
import { SessionsDialog } from '@/screen/sessions-dialog'
import { useAnswer } from '@/screen/use-live'
import { Button } from '@/ui/button'

/** Where one is signed in oneself. */
export function OwnSessions({ onEverywhere, onClose }: { onEverywhere: () => void; onClose: () => void }) {
  const { answer, problem } = useAnswer('account.sessions', {})
  return (
    <SessionsDialog
      title="Where you are signed in"
      description="If you do not recognise one, sign it out and change your password."
      sessions={answer}
      problem={problem}
      end={(sessionId) => sendCommand('account.endOwnSession', { sessionId })}
      onClose={onClose}
    >
      <Button kind="plain" onClick={onEverywhere}>
        Sign out on all devices
      </Button>
    </SessionsDialog>
  )
}
