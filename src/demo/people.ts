import { addDays, type CivilDate } from '@/core/calendar/school-year'
import { sortName } from '@/core/people/names'
import { address, familyName, givenName, phone } from './names'
import type { Random } from './random'
import type { DemoHomeroom, DemoStructure } from './structure'

export interface DemoGuardian {
  readonly id: string
  readonly given: string
  readonly family: string
  readonly email: string
  readonly language: string
  readonly address: string
  readonly phone: string
}

export interface DemoStudent {
  readonly id: string
  readonly number: number
  readonly given: string
  readonly family: string
  readonly preferred: string | null
  readonly birthDate: CivilDate
  readonly address: string
  readonly ferry: string | null
  readonly supportNote: string | null
  readonly homeroom: DemoHomeroom
  /** Where the student was before the homeroom of now, and until when. */
  readonly earlier?: { readonly homeroom: DemoHomeroom; readonly until: CivilDate }
  readonly since: CivilDate
  readonly guardians: readonly { readonly guardian: DemoGuardian; readonly relation: string }[]
  /** Standing of the student in marks, mean 0 and deviation 1; what lies behind scores that go together. */
  readonly ability: number
  /** 0 hands in everything, 1 forgets often. */
  readonly forgets: number
  /** Share of half-days missed for illness, and of mornings late. */
  readonly ill: number
  readonly late: number
}

export interface DemoPeople {
  readonly students: readonly DemoStudent[]
  readonly applicant: {
    readonly id: string
    readonly guardian: DemoGuardian
    readonly homeroom: DemoHomeroom
  }
}

interface Known {
  readonly given: string
  readonly family: string
  readonly preferred?: string
  readonly joined?: string
  readonly movedOn?: string
  readonly support?: string
  readonly repeats?: boolean
  readonly twoHouseholds?: boolean
}

/** Students whose story the school knows; the first ones of 7 Tern, and those whom a rule needs. */
const known: Readonly<Record<string, readonly Known[]>> = {
  '7 Tern': [
    { given: 'Tobias', family: 'Abara' },
    { given: 'Juno', family: 'Bellweather' },
    { given: 'Rui', family: 'Castellane', twoHouseholds: true },
    { given: 'Asta', family: 'Dunmore' },
    { given: 'Philippa', family: 'Eisele', preferred: 'Pip' },
    { given: 'Milan', family: 'Farrow' },
    { given: 'Pia', family: 'Gallowglass' },
    { given: 'Suleiman', family: 'Haddo' },
    { given: 'Kit', family: 'Jurado' },
    { given: 'Emeka', family: 'Kestrel', movedOn: '11-09' },
    { given: 'Mira', family: 'Lindqvist-Rao' },
    {
      given: 'Oona',
      family: 'Marchetti',
      support: 'Support plan: reads with a coloured overlay, a quarter more time in tests.',
    },
    { given: 'Leif', family: 'Nakahara' },
    { given: 'Ilse', family: 'Okonjo-Marsh', joined: '10-12' },
    { given: 'Anselm', family: 'Pell' },
    { given: 'Rosalind', family: 'Quill' },
    { given: 'Idris', family: 'Rosewarne' },
    { given: 'Yuki', family: 'Strand' },
  ],
  '4 Plover': [
    { given: 'Enzo', family: 'Vargas', repeats: true, support: 'Support plan: speech sessions on Tuesdays.' },
  ],
  '9 Tern': [{ given: 'Liv', family: 'Ostberg', repeats: true }],
  '10 Plover': [
    { given: 'Ravi', family: 'Ganesan', support: 'Support plan: may leave the room for short breaks.' },
  ],
}

const languages = ['en', 'en', 'en', 'en', 'no', 'tr', 'pt', 'de', 'ja'] as const

function makeGuardian(
  random: Random,
  family: string,
  home: string,
  serial: number,
  language?: string,
): DemoGuardian {
  const given = givenName(random)
  const mail = `${given}.${family}`.toLowerCase().replace(/[^a-z.]+/g, '-')
  return {
    id: random.uuid(),
    given,
    family,
    email: `${mail}${serial}@islandmail.example`,
    language: language ?? random.pick(languages),
    address: home,
    phone: phone(random),
  }
}

function guardiansFor(
  random: Random,
  family: string,
  home: string,
  serial: number,
  story: Known | undefined,
): DemoStudent['guardians'] {
  if (story?.given === 'Ilse')
    return [
      {
        guardian: {
          id: random.uuid(),
          given: 'Hana',
          family: 'Marsh',
          email: 'hana.marsh@islandmail.example',
          language: 'en',
          address: home,
          phone: '000 0412',
        },
        relation: 'mother',
      },
      {
        guardian: {
          id: random.uuid(),
          given: 'Bram',
          family: 'Okonjo',
          email: 'bram.okonjo@islandmail.example',
          language: 'en',
          address: home,
          phone: '000 0413',
        },
        relation: 'father',
      },
    ]
  const first = {
    guardian: makeGuardian(random, family, home, serial, story?.twoHouseholds ? 'en' : undefined),
    relation: random.pick(['parent', 'parent']),
  }
  if (story?.twoHouseholds) {
    const elsewhere = address(random).address
    return [
      first,
      {
        guardian: makeGuardian(random, familyName(random), elsewhere, serial + 5000, 'pt'),
        relation: 'parent',
      },
    ]
  }
  if (random.below(10) < 4) return [first]
  return [
    first,
    {
      guardian: makeGuardian(
        random,
        random.below(3) === 0 ? familyName(random) : family,
        home,
        serial + 5000,
      ),
      relation: random.pick(['parent', 'parent', 'grandparent', 'foster parent']),
    },
  ]
}

/** About 620 students (or so many times as many) with guardians, some of them siblings, and one applicant who is expected. */
export function makePeople(s: DemoStructure, random: Random, times = 1): DemoPeople {
  const { firstDay } = s.year
  const inAutumn = (monthDay: string) => `${firstDay.slice(0, 4)}-${monthDay}`
  const students: DemoStudent[] = []
  const taken = new Set<string>()
  for (const homeroom of s.homerooms) {
    const stories = known[homeroom.name] ?? []
    const size = times * (homeroom.name === '7 Tern' ? 28 : 24 + random.below(4))
    for (let i = 0; i < size; i++) {
      const story = stories[i]
      const sibling =
        !story && students.length > 40 && random.below(8) === 0 ? random.pick(students) : undefined
      let given = story?.given ?? givenName(random)
      let family = story?.family ?? sibling?.family ?? familyName(random)
      while (!story && (taken.has(`${given} ${family}`) || family.startsWith(given))) {
        given = givenName(random)
        if (!sibling) family = familyName(random)
      }
      taken.add(`${given} ${family}`)
      const number = 101 + students.length
      const home = sibling
        ? { address: sibling.address, ferry: sibling.ferry }
        : story?.given === 'Ilse'
          ? { address: 'Marram House, Little Skarn', ferry: 'Little Skarn' }
          : address(random)
      const born = Number(firstDay.slice(0, 4)) - 5 - homeroom.yearGroup.number - (story?.repeats ? 1 : 0)
      const since = story?.joined ? inAutumn(story.joined) : firstDay
      const movedOn = story?.movedOn && inAutumn(story.movedOn)
      const before = s.homerooms.find((h) => h.name === '7 Plover')
      students.push({
        id: random.uuid(),
        number,
        given,
        family,
        preferred: story?.preferred ?? null,
        birthDate: addDays(`${born}-09-01`, random.below(365)),
        ...home,
        supportNote: story?.support ?? null,
        homeroom,
        since,
        earlier: movedOn && movedOn <= s.today && before ? { homeroom: before, until: movedOn } : undefined,
        guardians: sibling?.guardians ?? guardiansFor(random, family, home.address, number, story),
        ability: random.normal(),
        forgets: Math.max(0, 0.05 + 0.05 * random.normal()),
        ill: Math.max(0.005, 0.035 + 0.02 * random.normal()),
        late: Math.max(0, 0.015 + 0.02 * random.normal()),
      })
    }
  }
  const tern = s.homerooms.find((h) => h.name === '7 Tern') as DemoHomeroom
  return {
    students: students.filter((x) => x.since <= s.today),
    applicant: {
      id: random.uuid(),
      homeroom: tern,
      guardian: {
        ...makeGuardian(random, 'Iversen', 'Lantern House, Farrow', 0, 'no'),
        given: 'Sunniva',
        email: 'sunniva.iversen@islandmail.example',
      },
    },
  }
}

/** The classes a student is in, with the period, following a move between homerooms. */
export function placesOf(
  s: DemoStructure,
  student: DemoStudent,
): readonly { readonly classId: string; readonly from: CivilDate; readonly until: CivilDate | null }[] {
  const of = (homeroom: DemoHomeroom, from: CivilDate, until: CivilDate | null) =>
    s.classes
      .filter((c) => c.homeroom === homeroom && c.name !== '7 Navigation')
      .map((c) => ({ classId: c.id, from, until }))
  const { earlier } = student
  return earlier
    ? [...of(earlier.homeroom, student.since, earlier.until), ...of(student.homeroom, earlier.until, null)]
    : of(student.homeroom, student.since, null)
}

const period = (from: CivilDate, until: CivilDate | null) => `[${from},${until ?? ''})`

/** Rows of the people's tables. */
export function peopleRows(
  school: { id: string },
  s: DemoStructure,
  { students, applicant }: DemoPeople,
): readonly (readonly [string, readonly object[]])[] {
  const own = { school_id: school.id }
  const guardians = new Map(
    [...students.flatMap((x) => x.guardians.map((g) => g.guardian)), applicant.guardian].map((g) => [
      g.id,
      g,
    ]),
  )
  const since = (x: DemoStudent) => x.earlier?.until ?? x.since
  return [
    [
      'student',
      [
        ...students.map((x) => ({
          ...own,
          id: x.id,
          number: x.number,
          legal_given_name: x.given,
          legal_family_name: x.family,
          preferred_name: x.preferred,
          sort_name: sortName(x.preferred ?? x.given, x.family),
          birth_date: x.birthDate,
          address: x.address,
          transport: x.ferry && `Ferry from ${x.ferry}`,
          support_note: x.supportNote,
          version: 1,
          accepted_for: null,
          expected_in: null,
          expected_from: null,
        })),
        {
          ...own,
          id: applicant.id,
          number: null,
          legal_given_name: 'Noor',
          legal_family_name: 'Iversen',
          preferred_name: null,
          sort_name: 'Iversen, Noor',
          birth_date: `${Number(s.year.firstDay.slice(0, 4)) - 12}-10-04`,
          address: 'Lantern House, Farrow',
          transport: 'Ferry from Farrow',
          support_note: null,
          version: 1,
          accepted_for: applicant.homeroom.yearGroup.id,
          expected_in: applicant.homeroom.id,
          expected_from: s.today,
        },
      ],
    ],
    ['student_number', [{ ...own, next: Math.max(...students.map((x) => x.number)) + 1 }]],
    [
      'guardian',
      [...guardians.values()].map((g) => ({
        ...own,
        id: g.id,
        given_name: g.given,
        family_name: g.family,
        email: g.email,
        phone: g.phone,
        language: g.language,
        address: g.address,
      })),
    ],
    [
      'guardianship',
      [
        ...students.flatMap((x) =>
          x.guardians.map(({ guardian, relation }, i) => ({
            ...own,
            student_id: x.id,
            guardian_id: guardian.id,
            relation,
            contact_order: i + 1,
            may_receive_reports: true,
          })),
        ),
        {
          ...own,
          student_id: applicant.id,
          guardian_id: applicant.guardian.id,
          relation: 'mother',
          contact_order: 1,
          may_receive_reports: true,
        },
      ],
    ],
    [
      'enrolment',
      students.map((x) => ({
        ...own,
        student_id: x.id,
        year_id: s.year.id,
        year_group_id: x.homeroom.yearGroup.id,
        period: period(x.since, null),
      })),
    ],
    [
      'homeroom_member',
      students.flatMap((x) => [
        ...(x.earlier
          ? [
              {
                ...own,
                homeroom_id: x.earlier.homeroom.id,
                student_id: x.id,
                period: period(x.since, x.earlier.until),
              },
            ]
          : []),
        { ...own, homeroom_id: x.homeroom.id, student_id: x.id, period: period(since(x), null) },
      ]),
    ],
    [
      'class_member',
      students.flatMap((x) =>
        placesOf(s, x).map((p) => ({
          ...own,
          class_id: p.classId,
          student_id: x.id,
          period: period(p.from, p.until),
        })),
      ),
    ],
  ]
}
