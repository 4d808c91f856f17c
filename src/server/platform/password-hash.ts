import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto'
import { turns } from './turns'

/** What one hash costs: 2^log2N rounds of blocks of r × 128 bytes, p times. */
interface Cost {
  readonly log2N: number
  readonly r: number
  readonly p: number
}

/** As the OWASP Password Storage Cheat Sheet recommends for scrypt (one of its equal choices): 32 MB, three times. */
const cost: Cost = { log2N: 15, r: 8, p: 3 }
/** Of hashes kept before the cost stood in them. */
const formerCost: Cost = { log2N: 14, r: 16, p: 1 }
const keyLength = 64

/**
 * Each hash keeps a core busy for a fifth of a second; the other one goes on answering pages. What comes when a dozen
 * wait already hears within the second that Kedge is busy.
 */
const hashing = turns('passwords to be checked', { atOnce: 1, mostWaiting: 12 })

function key(password: string, salt: string, { log2N, r, p }: Cost, first: boolean): Promise<Buffer> {
  const options = { N: 2 ** log2N, r, p, maxmem: 256 * 2 ** log2N * r }
  const work = () =>
    new Promise<Buffer>((resolve, reject) =>
      scrypt(password.normalize('NFKC'), salt, keyLength, options, (error, made) =>
        error ? reject(error) : resolve(made),
      ),
    )
  return hashing.take(work, { first })
}

/**
 * The hash under which a password is kept, with its cost and salt: `scrypt:15:8:3:SALT:KEY`.
 * @param options.first not behind strangers who try to sign in, for people who are known
 * @throws Busy
 */
export async function hashPassword(password: string, { first = true } = {}): Promise<string> {
  const salt = randomBytes(16).toString('hex')
  const made = await key(password, salt, cost, first)
  return ['scrypt', cost.log2N, cost.r, cost.p, salt, made.toString('hex')].join(':')
}

/** Reads a kept hash; those without a cost are of former times. */
function read(hash: string): { cost: Cost; salt: string; kept: Buffer } | undefined {
  const parts = hash.split(':')
  const [log2N, r, p] = parts.slice(1, 4).map(Number)
  if (parts[0] === 'scrypt' && log2N && r && p)
    return { cost: { log2N, r, p }, salt: parts[4] ?? '', kept: Buffer.from(parts[5] ?? '', 'hex') }
  const [salt, kept] = parts
  return salt && kept && parts.length === 2
    ? { cost: formerCost, salt, kept: Buffer.from(kept, 'hex') }
    : undefined
}

/**
 * Whether a password is the one kept under a hash.
 * @throws Busy
 */
export async function passwordMatches(
  hash: string,
  password: string,
  { first = true } = {},
): Promise<boolean> {
  const known = read(hash)
  if (!known) return false
  const made = await key(password, known.salt, known.cost, first)
  return made.length === known.kept.length && timingSafeEqual(made, known.kept)
}

/** Whether a hash costs less than hashes do now, so that it is renewed when its password is next typed. */
export function isOutdated(hash: string): boolean {
  const known = read(hash)
  return !known || known.cost.log2N !== cost.log2N || known.cost.r !== cost.r || known.cost.p !== cost.p
}
