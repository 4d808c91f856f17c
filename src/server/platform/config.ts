import { z } from 'zod'

/** What the sign-in page of a demo says, and who can sign in. */
const notice = z.object({
  heading: z.string(),
  text: z.string(),
  users: z.array(z.object({ username: z.string(), password: z.string(), who: z.string() })),
})

function parsed(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch (error) {
    if (error instanceof SyntaxError) return undefined
    throw error
  }
}

const schema = z.object({
  DATABASE_URL: z.string().startsWith('postgres', 'must be a postgres:// address of the application role'),
  DATABASE_OWNER_URL: z.string().startsWith('postgres').optional(),
  KEDGE_SECRET: z.string().min(32, 'must be at least 32 characters; openssl rand -hex 32 makes one'),
  KEDGE_URL: z.url().default('http://127.0.0.1:3000'),
  KEDGE_VERSION: z.string().default('0.1.0'),
  KEDGE_NOW: z.iso.datetime({ local: true }).optional(),
  KEDGE_NOW_SET_AT: z.coerce.number().int().optional(),
  KEDGE_MAILBOX: z.enum(['0', '1']).default('0'),
  KEDGE_NOTICE: z
    .string()
    .transform((text, context) => {
      const read = notice.safeParse(parsed(text))
      if (read.success) return read.data
      context.addIssue('must be JSON with heading, text and users')
      return z.NEVER
    })
    .optional(),
  KEDGE_POOL: z.coerce.number().int().min(1).max(100).default(10),
  KEDGE_PROXIES: z.coerce.number().int().min(0).max(10).default(0),
  KEDGE_TIMEOUTS: z.coerce.number().min(1).max(100).default(1),
  KEDGE_COUNT_QUERIES: z.enum(['0', '1']).default('0'),
  SMTP_URL: z.string().startsWith('smtp').optional(),
  MAIL_FROM: z.string().default('Kedge <kedge@localhost>'),
  KEDGE_LOG: z.string().min(1).optional(),
  LOG_LEVEL: z.enum(['debug', 'info', 'warn', 'error', 'silent']).default('info'),
})

export type Config = z.infer<typeof schema>

let read: Config | undefined

/**
 * The configuration from the environment, read once. docs/configuration.md describes each value.
 * @throws Error that names every wrong value
 */
export function config(): Config {
  if (read) return read
  const result = schema.safeParse(process.env)
  if (!result.success) {
    const problems = result.error.issues.map((i) => `  ${i.path.join('.')}: ${i.message}`)
    throw new Error(`Kedge's configuration is not right:\n${problems.join('\n')}`)
  }
  read = result.data
  return read
}
