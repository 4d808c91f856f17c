import { z } from 'zod'
import { limits } from '@/core/limits'
import { describeRun } from '@/server/front/describe'
import { invalid, notFound } from '@/server/platform/failure'
import { answered, asActor, failed, readJsonBody, sameOrigin } from '@/server/platform/http'
import { preview, executeCommand } from '@/server/platform/run'
import { commands } from '@/server/registry'

const body = z.object({
  input: z.unknown(),
  key: z.uuid(),
  tab: z.string().max(limits.key).optional(),
  /** Only says what would change. */
  preview: z.boolean().optional(),
  /** What the preview showed; when that is no longer true, nothing is done. */
  fingerprint: z.string().max(limits.key).optional(),
})

/** Carries out a command of the registry. The key makes a form sent twice count once. */
export async function POST(request: Request, { params }: { params: Promise<{ name: string }> }) {
  const { name } = await params
  const command = commands.get(name)
  if (!command || command.by || !sameOrigin(request)) return failed(notFound)
  return asActor(
    request,
    async (actor) => {
      const read = body.safeParse(await readJsonBody(request))
      if (!read.success) return failed(invalid(read.error))
      const { input, key, tab, fingerprint } = read.data
      if (read.data.preview) return answered(await preview(command, actor, input, describeRun))
      const expecting = fingerprint === undefined ? undefined : { fingerprint, describe: describeRun }
      return answered(await executeCommand(command, actor, input, { key, tab, expecting }))
    },
    { beforePassword: name === 'account.setOwnPassword', isAct: true },
  )
}
