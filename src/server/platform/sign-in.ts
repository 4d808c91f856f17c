import { AsyncLocalStorage } from 'node:async_hooks'
import { betterAuth } from 'better-auth'
import { sql } from 'kysely'
import { connectSignIn } from '@/db/connection'
import { clientAddress } from './client-address'
import { config } from './config'
import { database } from './database'
import { deviceCookie, isKnownDevice } from './known-device'
import { log } from './log'
import { hashPassword, isOutdated, passwordMatches } from './password-hash'
import { sessionHours } from './session-limits'
import { forgetTries, noteFailure, secondsLeft, secondsToWait, takeBackTry, waitInWords } from './tries'
import { Busy } from './turns'

/** The hash whose password was found right just now, for the sign-in package, which would work it out again. */
const proven = new AsyncLocalStorage<string>()

function makeAuth() {
  const { DATABASE_URL, KEDGE_SECRET, KEDGE_URL, KEDGE_TIMEOUTS } = config()
  return betterAuth({
    baseURL: KEDGE_URL,
    secret: KEDGE_SECRET,
    telemetry: { enabled: false },
    // A wrong password is no fault of Kedge's; the person hears of it and it is counted.
    logger: { log: (level, message) => log().debug({ level }, message) },
    database: { db: connectSignIn(DATABASE_URL, KEDGE_TIMEOUTS), type: 'postgres' },
    emailAndPassword: {
      enabled: true,
      disableSignUp: true,
      minPasswordLength: 1,
      maxPasswordLength: 200,
      password: {
        hash: (password) => hashPassword(password),
        verify: async ({ hash, password }) => proven.getStore() === hash || passwordMatches(hash, password),
      },
    },
    user: {
      additionalFields: {
        mustChangePassword: { type: 'boolean', input: false },
        username: { type: 'string', input: false, required: false },
      },
    },
    session: {
      // The whole life of a session and of its cookie; nothing makes it longer (session-limits.ts ends it earlier).
      expiresIn: 60 * 60 * sessionHours,
      disableSessionRefresh: true,
      additionalFields: {
        schoolId: { type: 'string', input: false, required: false },
        activeAt: { type: 'date', input: false, required: false, fieldName: 'active_at' },
        sharedComputer: { type: 'boolean', input: false, required: false, fieldName: 'shared_computer' },
      },
    },
    advanced: { cookiePrefix: 'kedge', useSecureCookies: KEDGE_URL.startsWith('https:') },
  })
}

const shared = globalThis as typeof globalThis & { kedgeAuth?: ReturnType<typeof makeAuth> }
const auth = () => (shared.kedgeAuth ??= makeAuth())

/** Tries at one name from anywhere, at one account from a browser where it signed in before, and from one address. */
const allowed = {
  name: { free: 5, step: 5, longest: 900 },
  device: { free: 8, step: 5, longest: 300 },
  // A whole school may sit behind one address on the first morning; only wrong passwords count here.
  address: { free: 60, step: 1, longest: 60 },
} as const

export type SignInAnswer =
  | { readonly ok: true; readonly cookies: readonly string[] }
  | { readonly ok: false; readonly status: 401 | 429 | 503; readonly message: string }

/** The account with a user name or an e-mail address, whichever was typed. */
export async function accountNamed(name: string) {
  return database()
    .withoutPlugins()
    .selectFrom('auth.user')
    .select(['id', 'email', 'username'])
    .where((eb) => eb.or([eb('username', '=', name), eb('email', '=', name)]))
    .orderBy(sql`username = ${name}`, 'desc')
    .executeTakeFirst()
}

/** What is counted when a name is tried. */
export const nameTried = (name: string) => `name ${name}`

/** Lets the names of an account be tried again at once. */
export const forgetNames = (names: readonly (string | null | undefined)[]): Promise<void> =>
  forgetTries(names.flatMap((name) => (name ? [nameTried(name.toLowerCase())] : [])))

const tooMany = (seconds: number): SignInAnswer => ({
  ok: false,
  status: 429,
  message: `Too many attempts. Wait ${waitInWords(seconds)} and try again, or ask an administrator to reset the password.`,
})

const busy: SignInAnswer = {
  ok: false,
  status: 503,
  message: 'Many people are signing in at the moment. Please try again in a few seconds.',
}

const wrong: SignInAnswer = {
  ok: false,
  status: 401,
  message: 'The user name or password is incorrect. Check both and try again.',
}

/** The hash under which an account's password is kept. */
async function hashOf(accountId: string): Promise<string | undefined> {
  const row = await database()
    .withoutPlugins()
    .selectFrom('auth.account')
    .select('password')
    .where('userId', '=', accountId)
    .where('providerId', '=', 'credential')
    .executeTakeFirst()
  return row?.password ?? undefined
}

/**
 * Checks a user name or e-mail address and a password, and opens a session. Each try is put down before it is looked
 * at; each name that is typed, whether there is one like it or not, waits longer after every wrong password, so that
 * passwords cannot be tried out. A stranger who tries holds up nobody at a browser where they signed in before.
 */
export async function signIn(
  typed: string,
  password: string,
  headers: Headers,
  options: { readonly sharedComputer?: boolean } = {},
): Promise<SignInAnswer> {
  const known = await accountNamed(typed.trim().toLowerCase())
  const answer = await trySignIn({ typed, known }, password, headers, options)
  if (!answer.ok)
    log().warn(
      {
        event: answer.status === 429 ? 'sign-in locked' : 'sign-in refused',
        account: known?.id ?? null,
        from: clientAddress(headers),
      },
      answer.status === 429
        ? 'too many attempts'
        : answer.status === 503
          ? 'too many at once'
          : 'wrong name or password',
    )
  return answer
}

async function trySignIn(
  { typed, known }: { readonly typed: string; readonly known: Awaited<ReturnType<typeof accountNamed>> },
  password: string,
  headers: Headers,
  { sharedComputer = false } = {},
): Promise<SignInAnswer> {
  const name = typed.trim().toLowerCase()
  const address = clientAddress(headers)
  const first = known !== undefined && isKnownDevice(headers, known.id)
  const tried = first ? `device ${known.id}` : nameTried(name)
  if (address && !first) {
    const left = await secondsLeft(`address ${address}`, allowed.address)
    if (left > 0) return tooMany(left)
  }
  const wait = await secondsToWait(tried, first ? allowed.device : allowed.name)
  if (wait > 0) return tooMany(wait)
  try {
    const hash = known && (await hashOf(known.id))
    // An unknown name takes as long as a wrong password, so that names cannot be guessed by the clock.
    const right = hash ? await passwordMatches(hash, password, { first }) : await hashInVain(password)
    if (!known || !hash || !right) {
      if (address) await noteFailure(`address ${address}`)
      return wrong
    }
    const answer = await proven.run(hash, () =>
      auth().api.signInEmail({ body: { email: known.email, password }, headers, asResponse: true }),
    )
    if (!answer.ok) return wrong
    await forgetTries([tried])
    if (isOutdated(hash)) await renewHash(known.id, hash, password)
    const cookies = answer.headers.getSetCookie()
    if (sharedComputer) await markShared(cookies)
    return { ok: true, cookies: [...cookies, deviceCookie(headers, known.id)] }
  } catch (error) {
    if (!(error instanceof Busy)) throw error
    await takeBackTry(tried)
    return busy
  }
}

async function hashInVain(password: string): Promise<false> {
  await hashPassword(password, { first: false })
  return false
}

/** Keeps the password at today's cost, unless it was changed meanwhile. */
async function renewHash(accountId: string, hash: string, password: string): Promise<void> {
  await database()
    .withoutPlugins()
    .updateTable('auth.account')
    .set({ password: await hashPassword(password) })
    .where('userId', '=', accountId)
    .where('password', '=', hash)
    .execute()
}

async function markShared(cookies: readonly string[]): Promise<void> {
  const headers = new Headers({ cookie: cookies.map((c) => c.split(';')[0]).join('; ') })
  const session = await auth().api.getSession({ headers })
  if (!session) return
  await database()
    .withoutPlugins()
    .updateTable('auth.session')
    .set({ shared_computer: true })
    .where('token', '=', session.session.token)
    .execute()
}

/** The account behind the session cookie, with the school the session works in, or undefined. */
export async function sessionAccount(headers: Headers) {
  const session = await auth().api.getSession({ headers })
  if (!session) return undefined
  const { id, name, email, username, mustChangePassword } = session.user
  const { token, schoolId, activeAt, sharedComputer, createdAt } = session.session
  return {
    id,
    name,
    email,
    username: username ?? email,
    mustChangePassword: mustChangePassword ?? false,
    token,
    schoolId: schoolId ?? undefined,
    activeAt: activeAt ?? createdAt,
    sharedComputer: sharedComputer ?? false,
  }
}

/** Puts down that something is done in a session. */
export async function noteActivity(token: string): Promise<void> {
  await sql`update auth.session set active_at = clock_timestamp()
    where token = ${token}`.execute(database())
}

/** Ends a session on the server. */
export async function endSession(token: string): Promise<void> {
  await database().withoutPlugins().deleteFrom('auth.session').where('token', '=', token).execute()
}

/** Ends this session; answers the cookies that say so. */
export async function signOut(headers: Headers): Promise<readonly string[]> {
  const answer = await auth().api.signOut({ headers, asResponse: true })
  return answer.headers.getSetCookie()
}
