import { readFileSync } from 'node:fs'
import pg from 'pg'
const e = JSON.parse(readFileSync('/work/t/loop-env.json', 'utf8'))
Object.assign(process.env, e)
const urls = JSON.parse(e.KEDGE_TEST_DATABASES)
process.env.DATABASE_URL = urls.app.replace('{database}', 'kedge_chk')
process.env.DATABASE_OWNER_URL = urls.owner.replace('{database}', 'kedge_chk')
process.env.KEDGE_COUNT_QUERIES = '0'
let log = false
const all: string[] = []
const q = pg.Client.prototype.query as any
pg.Client.prototype.query = function (this: any, ...a: any[]) {
  const t = typeof a[0] === 'string' ? a[0] : a[0]?.text
  if (log && t) all.push(t.replace(/\s+/g, ' ').slice(0, 150))
  return q.apply(this, a)
} as any
const main = async () => {
  const { ask } = await import('./src/server/platform/run')
  const { actorsOf } = await import('./src/server/platform/session')
  const { queries } = await import('./src/server/registry')
  const admin = new pg.Client({ connectionString: urls.superuser.replace('{database}', 'kedge_chk') })
  await admin.connect()
  const user = process.argv[2] ?? ''
  const { rows } = await admin.query('select id from auth."user" where username=$1 or email=$1', [user])
  const [actor] = await actorsOf(rows[0].id, { sessionToken: 'x' })
  const ids: any = (
    await admin.query(
      "select (select id from class where name='7 Science A') cl, (select id from homeroom where name='7 Tern') hr, (select id from report_round limit 1) rr",
    )
  ).rows[0]
  const sets: any = {
    today: [
      ['shell.frame', {}],
      ['today.due', { date: '2026-11-23' }],
      ['attendance.ownLessons', { date: '2026-11-23' }],
      ['attendance.unusual', { date: '2026-11-23' }],
    ],
    register: [
      ['shell.frame', {}],
      ['attendance.register', { homeroomId: ids.hr, date: '2026-11-23', session: 'morning' }],
    ],
    gradebook: [
      ['shell.frame', {}],
      ['marks.gradebook', { classId: ids.cl, date: '2026-11-23' }],
    ],
    entries: [
      ['shell.frame', {}],
      ['reports.classEntries', { roundId: ids.rr, classId: ids.cl }],
    ],
  }
  for (const name of process.argv.slice(3))
    for (const round of [0, 1]) {
      let total = 0
      for (const [n, input] of sets[name]) {
        all.length = 0
        log = true
        const r = await ask(queries.get(n) as never, actor as never, input)
        log = false
        if (round) {
          console.log('##', name, n, r.ok, all.length)
          for (const t of all) console.log('   ', t)
          total += all.length
        }
      }
      if (round) console.log('total', name, total)
    }
  process.exit()
}
void main()
