import { staff, office, teacherOwnAndOffice, management, adminAndOffice, row, type Entries } from './entry'

export const entries: Entries = {
  childrensTeachers: { who: row({ guardian: 'all' }) },
  classMembers: { who: teacherOwnAndOffice, input: (o) => ({ classId: o.classId, date: '2026-11-23' }) },
  recipients: {
    who: management,
    aboutOneself: true,
    input: (o) => ({ studentIds: [o.studentId], guardianIds: [] }),
  },
  writeMessage: {
    who: management,
    aboutOneself: true,
    input: (o) => ({
      studentIds: [o.studentId],
      guardianIds: [],
      subject: 'Ferry',
      text: 'No ferry on Friday.',
    }),
  },
  setPhoto: {
    who: office,
    input: (o) => ({ studentId: o.studentId, expectedPhotoId: null, bytes: Buffer.from('x') }),
  },
  removePhoto: { who: office, input: (o) => ({ studentId: o.studentId, expectedPhotoId: null }) },
  list: { who: staff, aboutOneself: true, input: () => ({ date: '2026-11-23' }) },
  student: { who: staff, input: (o) => ({ studentId: o.studentId }) },
  groups: { who: management, aboutOneself: true, input: () => ({ date: '2026-11-23' }) },
  addGroups: { who: adminAndOffice, aboutOneself: true, input: () => ({ names: ['Choir', 'choir'] }) },
  saveGroup: {
    who: adminAndOffice,
    aboutOneself: true,
    input: (o) => ({ groupId: o.roundId, expectedVersion: 0, name: 'x' }),
  },
  removeGroup: {
    who: adminAndOffice,
    aboutOneself: true,
    input: (o) => ({ groupId: o.roundId, expectedVersion: 0 }),
  },
  guardians: { who: office, aboutOneself: true, input: () => ({ date: '2026-11-23' }) },
  possibleDuplicates: {
    who: office,
    aboutOneself: true,
    input: () => ({ givenName: 'A', familyName: 'B', birthDate: '2014-01-01' }),
  },
  enrolForm: { who: office, aboutOneself: true, input: () => ({ startDate: '2026-11-23' }) },
  familyOf: { who: office, input: (o) => ({ studentId: o.studentId }) },
  applicantGuardians: { who: office, input: (o) => ({ studentId: o.studentId }) },
  enrol: {
    who: office,
    aboutOneself: true,
    input: (o) => ({
      givenName: 'A',
      familyName: 'B',
      birthDate: '2099-01-01',
      yearGroupId: o.roundId,
      homeroomId: o.homeroomId,
      classIds: [],
      startDate: '2026-11-23',
      guardian: { givenName: 'C', familyName: 'D', relation: 'mother' },
    }),
    draw: (random, _world, drawn) => ({
      givenName: random.pick(['Wren', 'Ilse']),
      familyName: random.pick(['Anker', 'Okonjo-Marsh']),
      birthDate: '2014-03-09',
      classIds: [],
      startDate: random.pick(['2026-11-23', '2026-09-01', '2026-11-24']),
      ...(random.below(3) > 0
        ? { applicantId: undefined }
        : drawn.applicantId
          ? { applicantId: drawn.applicantId }
          : {}),
    }),
  },
  inviteAgain: { who: office, input: (o) => ({ studentId: o.studentId, guardianId: o.roundId }) },
  endGuardianAccess: { who: office, input: (o) => ({ studentId: o.studentId, guardianId: o.roundId }) },
  setStudent: {
    who: office,
    input: (o) => ({
      studentId: o.studentId,
      cells: [{ key: { field: 'birthDate' }, value: '2099-01-01', expectedVersion: 0 }],
    }),
    draw: (random, world) => ({
      cells: [
        random.pick([
          { key: { field: 'address' }, value: random.pick(['Quay Cottage, Farrow', null, 'Hut 4, Norwick']) },
          { key: { field: 'preferredName' }, value: random.pick(['Bo', null]) },
          { key: { field: 'legalFamilyName' }, value: random.pick(['Kestrel', 'van der Berg', '']) },
          { key: { field: 'birthDate' }, value: random.pick(['2014-03-09', '2099-01-01', 'soon']) },
        ]),
      ].map((cell) => ({ ...cell, expectedVersion: 0 })),
      studentId: world.idFor('studentId', random, {}),
    }),
  },
  place: {
    who: office,
    input: (o) => ({
      students: [{ studentId: o.studentId, expectedVersion: 0 }],
      from: '2020-01-01',
      homeroomId: o.homeroomId,
    }),
    draw: (random, world, drawn) => {
      const joins = random.below(2) === 0
      return {
        from: random.pick(['2026-11-23', '2026-11-24', '2026-12-01', '2026-09-01', '2027-01-05']),
        // Into a class, or into a homeroom; rarely both at once into what does not fit.
        join: joins ? [world.idFor('classId', random, {})] : [],
        joinGroups: random.below(6) === 0 ? [world.idFor('groupId', random, {})] : [],
        ...(random.below(3) > 0 ? { yearGroupId: null } : {}),
        ...(joins && random.below(3) > 0 ? { homeroomId: null } : { homeroomId: drawn.homeroomId }),
      }
    },
  },
  leave: {
    who: office,
    input: (o) => ({
      students: [{ studentId: o.studentId, expectedVersion: 0 }],
      lastDay: '2020-01-01',
      reason: 'x',
    }),
    draw: (random) => ({
      lastDay: random.pick(['2026-11-20', '2026-11-23', '2026-11-30', '2027-07-02', '2027-10-15']),
      reason: 'Moved to the mainland',
    }),
  },
  saveGuardian: {
    who: office,
    input: (o) => ({
      studentId: o.studentId,
      guardianId: o.roundId,
      expectedVersion: 1,
      expectedRelation: 1,
      givenName: 'A',
      familyName: 'B',
      relation: 'aunt',
      language: 'en',
      contactOrder: 1,
      mayReceiveReports: false,
    }),
  },
  removeGuardian: {
    who: office,
    input: (o) => ({ studentId: o.studentId, guardianId: o.roundId, expectedVersion: 1 }),
  },
}
