import { betterAuth } from 'better-auth'
import { hashPassword, verifyPassword } from 'better-auth/crypto'
import { sql } from 'kysely'
import { connectSignIn } from '@/db/connection'
import { config } from './config'
import { database } from './database'
import { log } from './log'

function makeAuth() {
  const { DATABASE_URL, KEDGE_SECRET, KEDGE_URL, KEDGE_PATIENCE } = config()
  return betterAuth({
    baseURL: KEDGE_URL,
    secret: KEDGE_SECRET,
    telemetry: { enabled: false },
    // A wrong password is no fault of Kedge's; the person hears of it and it is counted.
    logger: { log: (level, message) => log().debug({ level }, message) },
    database: { db: connectSignIn(DATABASE_URL, KEDGE_PATIENCE), type: 'postgres' },
    emailAndPassword: { enabled: true, disableSignUp: true, minPasswordLength: 1, maxPasswordLength: 200 },
    user: {
      additionalFields: {
        mustChangePassword: { type: 'boolean', input: false },
        username: { type: 'string', input: false, required: false },
      },
    },
    session: {
      expiresIn: 60 * 60 * 12,
      updateAge: 60 * 30,
      additionalFields: { schoolId: { type: 'string', input: false, required: false } },
    },
    advanced: { cookiePrefix: 'kedge', useSecureCookies: KEDGE_URL.startsWith('https:') },
  })
}

const shared = globalThis as typeof globalThis & { kedgeAuth?: ReturnType<typeof makeAuth> }
const auth = () => (shared.kedgeAuth ??= makeAuth())

const allowedTries = 8
const windowMinutes = 10

export type SignInAnswer =
  | { readonly ok: true; readonly cookies: readonly string[] }
  | { readonly ok: false; readonly status: 401 | 429; readonly message: string }

/** The account with a user name or an e-mail address, whichever was typed. */
export async function accountNamed(name: string) {
  return database()
    .withoutPlugins()
    .selectFrom('auth.user')
    .select(['id', 'email'])
    .where((eb) => eb.or([eb('username', '=', name), eb('email', '=', name)]))
    .orderBy(sql`username = ${name}`, 'desc')
    .executeTakeFirst()
}

/** Puts down that something is tried, and answers whether it was not yet too often in the last minutes. */
export async function mayTry(what: string, most: number, minutes: number): Promise<boolean> {
  const { rows } = await sql<{ may: boolean }>`
    select kedge_may_try(${what}, ${most}, ${minutes}) as may`.execute(database())
  return rows[0]?.may ?? false
}

/**
 * Checks a user name or e-mail address and a password, and opens a session. Each try is put down before it is
 * looked at; after eight in ten minutes the account waits, whatever is typed, so that passwords cannot be tried
 * out, while a whole school behind one address is not held up.
 */
export async function signIn(typed: string, password: string, headers: Headers): Promise<SignInAnswer> {
  const name = typed.trim().toLowerCase()
  const known = await accountNamed(name)
  const tried = known?.id ?? name
  if (!(await mayTry(tried, allowedTries, windowMinutes)))
    return {
      ok: false,
      status: 429,
      message: `Too many attempts for this user name. Wait ${windowMinutes} minutes, or ask an administrator to reset the password.`,
    }
  const answer =
    known &&
    (await auth().api.signInEmail({ body: { email: known.email, password }, headers, asResponse: true }))
  // An unknown name takes as long as a wrong password, so that names cannot be guessed by the clock.
  if (!answer) await hashPassword(password)
  if (!answer?.ok)
    return {
      ok: false,
      status: 401,
      message: 'The user name or password is incorrect. Check both and try again.',
    }
  await database().withoutPlugins().deleteFrom('auth.sign_in_attempt').where('name', '=', tried).execute()
  return { ok: true, cookies: answer.headers.getSetCookie() }
}

/** The account behind the session cookie, with the school the session works in, or undefined. */
export async function sessionAccount(headers: Headers) {
  const session = await auth().api.getSession({ headers })
  if (!session) return undefined
  const { id, name, email, username, mustChangePassword } = session.user
  const { token, schoolId } = session.session
  return {
    id,
    name,
    email,
    username: username ?? email,
    mustChangePassword: mustChangePassword ?? false,
    token,
    schoolId: schoolId ?? undefined,
  }
}

/** Ends this session; answers the cookies that say so. */
export async function signOut(headers: Headers): Promise<readonly string[]> {
  const answer = await auth().api.signOut({ headers, asResponse: true })
  return answer.headers.getSetCookie()
}

/** The hash under which a password is kept. */
export { hashPassword }

/** Whether a password is the one kept under a hash. */
export const passwordMatches = (hash: string, password: string): Promise<boolean> =>
  verifyPassword({ hash, password })
