import { z } from 'zod'

const schema = z.object({
  DATABASE_URL: z.string().startsWith('postgres', 'must be a postgres:// address of the application role'),
  DATABASE_OWNER_URL: z.string().startsWith('postgres').optional(),
  KEDGE_SECRET: z.string().min(32, 'must be at least 32 characters; openssl rand -hex 32 makes one'),
  KEDGE_URL: z.url().default('http://127.0.0.1:3000'),
  KEDGE_VERSION: z.string().default('0.1.0'),
  KEDGE_NOW: z.iso.datetime({ local: true }).optional(),
  KEDGE_NOW_SET_AT: z.coerce.number().int().optional(),
  KEDGE_DEMO: z.enum(['0', '1']).default('0'),
  KEDGE_POOL: z.coerce.number().int().min(1).max(100).default(10),
  KEDGE_COUNT_QUERIES: z.enum(['0', '1']).default('0'),
  SMTP_URL: z.string().startsWith('smtp').optional(),
  MAIL_FROM: z.string().default('Kedge <kedge@localhost>'),
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
