import { sql } from 'kysely'
import { bestFirst, defineDomain, holdsAll, plainText, type Found } from '@/server/platform/define'
import { whereMay } from '@/server/platform/rights'
import { named, textOf } from '@/server/platform/words'
import { arrivalsDue } from './due'
import { enrol } from './enrol'
import { addGroups, groups, removeGroup, saveGroup } from './groups'
import { childrensTeachers } from './children-teachers'
import { classMembers } from './class-members'
import { guardians } from './guardian-list'
import { endGuardianAccess, inviteAgain, removeGuardian, saveGuardian } from './guardian'
import { accountInvitation, guardianMessage } from './mails'
import { leave, place } from './memberships'
import { recipients, writeMessage } from './message'
import { removePhoto, setPhoto } from './photo'
import { setStudent } from './student-fields'
import { closedHomeroomsAreEmpty, membersAreEnrolled, mergedRecordsAreEmpty } from './invariants'
import { applicantGuardians, enrolForm, familyOf, list, possibleDuplicates, student } from './queries'
import { enrolStudents, findStudents, listGuardians, seeDetails, seeGroups } from './rights'

export { bringStudents, joinFromHomerooms, leaveStudents } from './carry-members'
export { mergeMemberships } from './merge-memberships'
export { mergeStudents, seeContact, seeDetails, seeGroups, seeStudent, seeStudentHistory } from './rights'
export { studentTopic } from './topics'

/** Students, guardians, and where students belong. */
export const people = defineDomain({
  name: 'people',
  tables: [
    'student',
    'studentNumber',
    'guardian',
    'guardianship',
    'enrolment',
    'homeroomMember',
    'classMember',
    'departure',
    'analysisGroup',
    'analysisGroupMember',
  ],
  reads: ['year', 'staff', 'account'],
  writes: ['account'],
  queries: {
    list,
    student,
    possibleDuplicates,
    enrolForm,
    familyOf,
    applicantGuardians,
    groups,
    guardians,
    recipients,
    classMembers,
    childrensTeachers,
  },
  commands: {
    enrol,
    inviteAgain,
    endGuardianAccess,
    setStudent,
    place,
    leave,
    saveGuardian,
    removeGuardian,
    addGroups,
    saveGroup,
    removeGroup,
    setPhoto,
    removePhoto,
    writeMessage,
  },
  files: [{ table: 'student', column: 'photo_id', right: seeDetails, object: 'id' }],
  mails: { accountInvitation, guardianMessage },
  due: [arrivalsDue],
  find: [
    // The few that are shown are chosen before anything is looked up for them: this is asked at every key.
    (context, words) => sql<Found>`
      select 'student' as kind, s.id, s.sort_name as name,
        coalesce('no. ' || lpad(s.number::text, 4, '0'), 'accepted') || coalesce(', ' || h.name, '') as detail, '/people/' || s.id as href
      from (select s.* from student s
        where ${holdsAll(sql.ref('s.plain_name'), words)}
          and s.merged_into is null and ${whereMay(context, findStudents, sql.ref('s.id'))}
        order by ${bestFirst(sql.ref('s.plain_name'), words)}, s.sort_name limit 8) s
      left join homeroom_member m on m.school_id = s.school_id and m.student_id = s.id and m.period @> ${context.today}::date
      left join homeroom h on h.school_id = m.school_id and h.id = m.homeroom_id
      order by ${bestFirst(sql.ref('s.plain_name'), words)}, s.sort_name`,
    (context, words) => sql<Found>`
      select 'homeroom' as kind, h.id, h.name, 'register' as detail, '/attendance/registers/' || h.id as href
      from homeroom h where ${holdsAll(plainText(sql`h.name || ' register'`), words)}
        and ${whereMay(context, findStudents, sql.ref('h.id'))} order by ${bestFirst(plainText(sql.ref('h.name')), words)}, h.name limit 8`,
    (context, words) => sql<Found>`
      select 'guardian' as kind, g.id, g.given_name || ' ' || g.family_name as name, 'guardian of ' || c.names as detail,
        '/people/' || c.first_id as href
      from (select g.* from guardian g
        where ${holdsAll(sql.ref('g.plain_name'), words)} and ${whereMay(context, listGuardians, sql.ref('g.id'))}
          and exists (select 1 from guardianship r where r.school_id = g.school_id and r.guardian_id = g.id)
        order by ${bestFirst(sql.ref('g.plain_name'), words)}, g.family_name, g.given_name limit 8) g
      cross join lateral (
        select string_agg(s.sort_name, '; ' order by s.sort_name) as names, (array_agg(s.id order by s.sort_name))[1] as first_id
        from guardianship r join student s on s.school_id = r.school_id and s.id = r.student_id
        where r.school_id = g.school_id and r.guardian_id = g.id) c
      order by ${bestFirst(sql.ref('g.plain_name'), words)}, g.family_name, g.given_name`,
  ],
  places: [
    { name: 'People', href: '/people', right: findStudents, position: 2 },
    { name: 'Students', href: '/people', right: findStudents, of: 'People', position: 1 },
    { name: 'Guardians', href: '/people/guardians', right: listGuardians, of: 'People', position: 2 },
    { name: 'Groups', href: '/people/groups', right: seeGroups, of: 'People', position: 3 },
    { name: 'Enrol a student', href: '/people/enrol', right: enrolStudents },
  ],
  invariants: [membersAreEnrolled, closedHomeroomsAreEmpty, mergedRecordsAreEmpty],
  history: {
    student: {
      kind: 'Student record',
      columns: {
        number: 'number',
        legal_given_name: 'legal given name',
        legal_family_name: 'legal family name',
        preferred_name: 'preferred name',
        birth_date: 'birth date',
        address: 'address',
        transport: 'transport',
        support_note: 'support note',
        medical_note: 'medical note',
        pronouns: 'pronouns',
        sort_name: 'name for lists',
        expected_from: 'expected from',
        merged_into: 'merged into',
        photo_id: 'photo',
      },
      name: 'sort_name',
    },
    guardian: {
      kind: 'Guardian record',
      which: (v) => [v.given_name, v.family_name].map(textOf).join(' ').trim(),
      columns: {
        given_name: 'given name',
        family_name: 'family name',
        email: 'e-mail',
        phone: 'telephone',
        language: 'language',
        address: 'address',
      },
      name: "given_name || ' ' || family_name",
    },
    guardianship: {
      kind: 'Guardian',
      which: named('guardian_id'),
      columns: {
        relation: 'relation',
        contact_order: 'contact order',
        may_receive_reports: 'receives reports',
      },
    },
    enrolment: { kind: 'Enrolment', which: named('year_group_id'), columns: { period: 'period' } },
    homeroom_member: { kind: 'Homeroom', which: named('homeroom_id'), columns: { period: 'period' } },
    departure: {
      kind: 'Departure',
      columns: { last_day: 'last day', reason: 'reason', destination: 'destination' },
    },
    class_member: { kind: 'Class', which: named('class_id'), columns: { period: 'period' } },
    analysis_group: {
      kind: 'Analysis group',
      which: (v) => textOf(v.name),
      columns: { name: 'name' },
      name: 'name',
      right: seeGroups,
    },
    analysis_group_member: {
      kind: 'Group',
      which: named('group_id'),
      columns: { period: 'period' },
      right: seeGroups,
    },
  },
})
