import { betterAuth } from 'better-auth'
import { hashPassword } from 'better-auth/crypto'
import { username } from 'better-auth/plugins'
import { sql } from 'kysely'
import { connect } from '@/db/connection'
import { config } from './config'
import { database } from './database'
import { log } from './log'

function makeAuth() {
  const { DATABASE_URL, KEDGE_SECRET, KEDGE_URL } = config()
  return betterAuth({
    baseURL: KEDGE_URL,
    secret: KEDGE_SECRET,
    telemetry: { enabled: false },
    // A wrong password is no fault of Kedge's; it is told to the person and counted.
    logger: { log: (level, message) => log().debug({ level }, message) },
    database: { db: connect(DATABASE_URL, { max: 4, options: '-c search_path=auth' }), type: 'postgres' },
    emailAndPassword: { enabled: true, disableSignUp: true, minPasswordLength: 1, maxPasswordLength: 200 },
    user: { additionalFields: { mustChangePassword: { type: 'boolean', input: false } } },
    session: { expiresIn: 60 * 60 * 12, updateAge: 60 * 30 },
    advanced: { cookiePrefix: 'kedge', useSecureCookies: KEDGE_URL.startsWith('https:') },
    plugins: [
      username({
        minUsernameLength: 2,
        maxUsernameLength: 60,
        usernameValidator: (name) => /^[a-z0-9._@-]+$/i.test(name),
      }),
    ],
  })
}

const shared = globalThis as typeof globalThis & { kedgeAuth?: ReturnType<typeof makeAuth> }
const auth = () => (shared.kedgeAuth ??= makeAuth())

const allowedFailures = 8
const windowMinutes = 10

export type SignInAnswer =
  | { readonly ok: true; readonly cookies: readonly string[] }
  | { readonly ok: false; readonly status: 401 | 429; readonly message: string }

/**
 * Checks a user name and password and opens a session. After eight failures in ten minutes the user name waits,
 * whatever is typed, so that passwords cannot be tried out; a whole school behind one address is not held up.
 */
export async function signIn(userName: string, password: string, headers: Headers): Promise<SignInAnswer> {
  const name = userName.trim().toLowerCase()
  const failures = await database()
    .selectFrom('auth.sign_in_failure')
    .select(({ fn }) => fn.countAll<string>().as('count'))
    .where('username', '=', name)
    .where('at', '>', sql<Date>`clock_timestamp() - make_interval(mins => ${windowMinutes})`)
    .executeTakeFirstOrThrow()
  if (Number(failures.count) >= allowedFailures)
    return {
      ok: false,
      status: 429,
      message: `Too many attempts for this user name. Wait ${windowMinutes} minutes, or ask an administrator to reset the password.`,
    }

  const known = await database()
    .selectFrom('auth.user')
    .select('id')
    .where('username', '=', name)
    .executeTakeFirst()
  const answer = known
    ? await auth().api.signInUsername({ body: { username: name, password }, headers, asResponse: true })
    : undefined
  // An unknown name takes as long as a wrong password, so that names cannot be guessed by the clock.
  if (!answer) await hashPassword(password)
  if (!answer?.ok) {
    await database().insertInto('auth.sign_in_failure').values({ username: name }).execute()
    return {
      ok: false,
      status: 401,
      message: 'This user name and password do not belong together. Check both and try again.',
    }
  }
  await database().deleteFrom('auth.sign_in_failure').where('username', '=', name).execute()
  return { ok: true, cookies: answer.headers.getSetCookie() }
}

/** The account behind the session cookie, or undefined. */
export async function sessionAccount(headers: Headers) {
  const session = await auth().api.getSession({ headers })
  if (!session) return undefined
  const {
    id,
    name,
    username: userName,
    mustChangePassword,
  } = session.user as typeof session.user & { mustChangePassword: boolean }
  return { id, name, username: userName ?? '', mustChangePassword, token: session.session.token }
}

/** Ends this session; answers the cookies that say so. */
export async function signOut(headers: Headers): Promise<readonly string[]> {
  const answer = await auth().api.signOut({ headers, asResponse: true })
  return answer.headers.getSetCookie()
}

/** The hash under which a password is kept. */
export { hashPassword }

/** Whether a password is the one kept under a hash. */
export async function passwordMatches(hash: string, password: string): Promise<boolean> {
  const { verifyPassword } = await import('better-auth/crypto')
  return verifyPassword({ hash, password })
}
