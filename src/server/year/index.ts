import { defineDomain } from '@/server/platform/define'
import { staffRoles } from '@/server/platform/actor'
import { onlyRoles } from '@/server/platform/rights'
import { named } from '@/server/platform/words'
import { feed, setFeed } from './feed'
import { removeClosure, saveClosure } from './closures'
import { orderParts, removePart, renamePart } from './parts'
import { postsEndWithTheirPeople } from './invariants'
import { removePeriod, savePeriod } from './periods'
import { calendar, classesAndParts } from './queries'
import { addYearGroups, createYear } from './set-up'
import { checkSetUp, seeSettings, seeStructure } from './rights'
import { closeHomeroom, saveHomeroom } from './homerooms'
import { saveSchool } from './own-school'
import { removeScale, removeScaleChange, saveScale, scales } from './scales'
import { saveSettings, settings } from './settings'
import { addRooms, addSubjects, setRegisters } from './structure'
import { removeTerm, saveTerm, saveYear, setTermOpen } from './terms'

export { createClasses, termAndNext, type TermOfYear } from './carry-classes'
export { checkSetUp, setUpYear } from './rights'
export { giveUpPosts } from './posts'
export { writeClass } from './structure'

const ofName = (kind: string, columns: Readonly<Record<string, string>>) => ({
  kind,
  which: (values: Readonly<Record<string, unknown>>) => String(values.name ?? ''),
  columns,
  name: 'name',
})

/** The academic year, its terms and closures, and the structure of year groups, homerooms and courses. */
export const year = defineDomain({
  name: 'year',
  tables: [
    'academicYear',
    'term',
    'termPeriod',
    'closure',
    'yearGroup',
    'homeroom',
    'homeroomTeacher',
    'homeroomClass',
    'subject',
    'course',
    'class',
    'classTerm',
    'classTeacher',
    'gradingScale',
    'gradingBand',
    'scaleChange',
    'school',
    'room',
    'schoolSetting',
  ],
  reads: ['account', 'staff'],
  queries: {
    calendar,
    classesAndParts,
    feed,
    scales,
    settings,
  },
  commands: {
    create: createYear,
    addYearGroups,
    addSubjects,
    addRooms,
    saveHomeroom,
    closeHomeroom,
    saveSchool,
    saveScale,
    removeScale,
    removeScaleChange,
    saveSettings,
    saveClosure,
    removeClosure,
    saveTerm,
    removeTerm,
    setTermOpen,
    savePeriod,
    removePeriod,
    saveYear,
    setFeed,
    renamePart,
    removePart,
    orderParts,
    setRegisters,
  },
  places: [
    {
      name: 'School',
      href: '/school',
      right: onlyRoles('open the school year', ...staffRoles),
      position: 7,
    },
    ...(
      [
        ['The year', 'Year', 'year', onlyRoles('open the school year', ...staffRoles)],
        ['The year', 'Carry forward', 'carry-forward', onlyRoles('carry classes forward', 'administrator')],
        ['Structure', 'Year groups, homerooms', 'year-groups', seeStructure],
        ['Structure', 'Subjects', 'subjects', seeStructure],
        ['Structure', 'Classes and teachers', 'classes', seeStructure],
        ['Structure', 'Rooms', 'rooms', seeStructure],
        ['Rules', 'Grading scales', 'scales', onlyRoles('open the grading scales', ...staffRoles)],
        ['Rules', 'Settings', 'settings', seeSettings],
        ['Running it', 'Set-up', 'set-up', checkSetUp],
      ] as const
    ).map(([group, name, path, right], i) => ({
      name,
      href: `/school/${path}`,
      right,
      of: 'School',
      group,
      position: i,
    })),
  ],
  invariants: [postsEndWithTheirPeople],
  history: {
    academic_year: ofName('Academic year', { name: 'name', first_day: 'first day', last_day: 'last day' }),
    term: ofName('Term', {
      name: 'name',
      first_day: 'first day',
      last_day: 'last day',
      open: 'open to teachers',
    }),
    term_period: ofName('Period of a term', { name: 'name', first_day: 'first day', last_day: 'last day' }),
    closure: ofName('Closure', { name: 'name', first_day: 'first day', last_day: 'last day' }),
    year_group: ofName('Year group', { name: 'name', position: 'position', registers: 'registers' }),
    homeroom: ofName('Homeroom', { name: 'name', last_day: 'last day' }),
    room: ofName('Room', { name: 'name' }),
    class: ofName('Class', { name: 'name' }),
    school_setting: {
      kind: 'Settings of the school',
      columns: {
        teachers_see: 'what teachers see of students they do not teach',
        attendance_threshold: 'attendance threshold',
      },
    },
    grading_scale: ofName('Grading scale', { name: 'name' }),
    grading_band: {
      kind: 'Grade of a scale',
      which: (values) => String(values.grade ?? ''),
      columns: { starts_on: 'from', from_percent: 'from %' },
    },
    scale_change: {
      kind: 'Change of a scale',
      which: (values) => String(values.starts_on ?? ''),
      columns: {},
    },
    subject: ofName('Subject', { name: 'name' }),
    course: ofName('Course', { name: 'name' }),
    class_term: { kind: 'Class in a term', which: named('class_id', 'term_id'), columns: {} },
    class_teacher: {
      kind: 'Teacher of a class',
      which: named('class_id', 'staff_id'),
      columns: { period: 'period' },
    },
    homeroom_teacher: {
      kind: 'Homeroom teacher',
      which: named('homeroom_id', 'staff_id'),
      columns: { period: 'period' },
    },
    homeroom_class: { kind: 'Class of a homeroom', which: named('homeroom_id', 'class_id'), columns: {} },
  },
})
