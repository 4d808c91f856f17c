import { randomUUID } from 'node:crypto'
import type { Random } from '@/demo/random'
import type { World } from '../walks/world'
import { lead, teacherOwnAndLead, teacherOwn, row, type Entries } from './entry'

/** A set as it is now, and standards that may be of it. */
const inSet = (random: Random, world: World) => {
  const setId = world.idFor('standardSetId', random, {})
  return {
    setId,
    expectedVersion: world.versionOf(setId),
    standardId: world.idFor('standardId', random, {}),
    parentId: random.below(2) === 0 ? null : world.idFor('standardId', random, {}),
    years: ['07'],
  }
}

export const entries: Entries = {
  list: {
    who: row({ administrator: 'all', head: 'all', teacher: 'all' }),
    aboutOneself: true,
    input: () => ({ date: '2026-11-23' }),
  },
  newForm: { who: row({ teacher: 'all' }) },
  create: {
    who: row({ teacher: 'all' }),
    input: (_o, as) => ({
      name: 'x',
      classIds: [as.foreign.classId],
      givenOn: '2026-11-23',
      questions: 1,
      choices: 4,
      points: '1',
    }),
  },
  series: { who: teacherOwnAndLead, input: (o) => ({ assessmentId: o.assessmentId }) },
  copy: {
    who: teacherOwnAndLead,
    input: (o, as) => ({
      assessmentId: o.assessmentId,
      name: 'x',
      classIds: [as.foreign.classId],
      givenOn: '2026-11-23',
      withQuestions: true,
    }),
  },
  key: { who: teacherOwnAndLead, input: (o) => ({ assessmentId: o.assessmentId }) },
  answers: { who: teacherOwnAndLead, input: (o) => ({ assessmentId: o.assessmentId }) },
  findings: { who: teacherOwnAndLead, input: (o) => ({ assessmentId: o.assessmentId }) },
  setDocument: {
    who: teacherOwn,
    input: (o) => ({ assessmentId: o.assessmentId, documentIds: [o.roundId], expectedVersion: 999 }),
  },
  setQuestions: {
    who: teacherOwn,
    input: (o) => ({
      assessmentId: o.assessmentId,
      expectedVersion: 999,
      questions: [
        {
          id: randomUUID(),
          kind: 'one choice',
          content: { choices: ['A', 'B', 'C', 'D'], right: 'A' },
          points: '1',
          counts: 'keyed',
          standardIds: [],
          page: null,
        },
      ],
    }),
  },
  setLevels: {
    who: teacherOwn,
    input: (o) => ({
      assessmentId: o.assessmentId,
      expectedVersion: 999,
      levels: [
        { name: 'secure', from: { percent: '80' } },
        { name: 'not yet', from: null },
      ],
      standards: [],
    }),
  },
  sharing: { who: teacherOwn, input: (o) => ({ assessmentId: o.assessmentId }) },
  describing: { who: teacherOwn, input: (o) => ({ assessmentId: o.assessmentId }) },
  handingOver: { who: teacherOwnAndLead, input: (o) => ({ assessmentId: o.assessmentId }) },
  sources: { who: teacherOwn, input: (o) => ({ assessmentId: o.assessmentId, jobId: o.roundId }) },
  sourceBytes: { who: teacherOwn, input: (o) => ({ assessmentId: o.assessmentId, documentId: o.roundId }) },
  keepDocument: {
    who: teacherOwn,
    input: (o) => ({
      assessmentId: o.assessmentId,
      jobId: o.roundId,
      name: 'x.pdf',
      bytes: Buffer.from('x'),
      pageCount: 1,
    }),
  },
  describe: {
    who: teacherOwn,
    input: (o) => ({
      assessmentId: o.assessmentId,
      expectedVersion: 999,
      name: 'x',
      tags: [],
      yearGroupId: null,
    }),
  },
  setShares: {
    who: teacherOwn,
    input: (o) => ({ assessmentId: o.assessmentId, expectedVersion: 999, shares: [] }),
    draw: (random, world) => {
      const audiences = ['colleague', 'course', 'year group', 'school'] as const
      const names = { colleague: 'staffId', course: 'courseId', 'year group': 'yearGroupId' } as const
      return {
        shares: audiences.flatMap((audience) =>
          random.below(2) === 0
            ? []
            : [
                {
                  with: audience,
                  of: audience === 'school' ? null : world.idFor(names[audience], random, {}),
                  maySeeResults: random.below(2) === 0,
                  mayGive: random.below(2) === 0,
                  mayEdit: random.below(2) === 0,
                },
              ],
        ),
      }
    },
  },
  give: {
    who: teacherOwn,
    input: (o, as) => ({
      assessmentId: o.assessmentId,
      classIds: [as.foreign.classId],
      givenOn: '2026-11-23',
    }),
  },
  handOver: {
    who: teacherOwnAndLead,
    input: (o) => ({ assessmentId: o.assessmentId, expectedVersion: 999, staffId: o.staffId }),
  },
  standardSets: {
    who: row({ administrator: 'all', head: 'all', office: 'all', teacher: 'all' }),
    aboutOneself: true,
  },
  createStandardSet: { who: lead, aboutOneself: true, input: () => ({ name: 'Music', subjectId: null }) },
  saveStandardSet: {
    who: lead,
    aboutOneself: true,
    input: () => ({ setId: randomUUID(), expectedVersion: 1, name: 'Music', subjectId: null }),
  },
  removeStandardSet: {
    who: lead,
    aboutOneself: true,
    input: () => ({ setId: randomUUID(), expectedVersion: 1 }),
    draw: (_random, world) => ({ setId: world.idFor('standardSetId', _random, {}) }),
  },
  importStandards: {
    who: lead,
    aboutOneself: true,
    input: () => ({
      setId: randomUUID(),
      expectedVersion: 0,
      name: 'Music',
      subjectId: null,
      source: null,
      standards: [
        { id: randomUUID(), parentId: null, code: null, statement: 'Sings', years: [], source: null },
      ],
    }),
    draw: (random, world) => {
      const setId = random.below(3) === 0 ? randomUUID() : world.idFor('standardSetId', random, {})
      const [first, second] = [randomUUID(), randomUUID()]
      return {
        setId,
        expectedVersion: world.versionOf(setId),
        source: null,
        standards: [
          { id: first, parentId: null, code: 'MUS.1', statement: 'Sings', years: ['07'], source: null },
          { id: second, parentId: first, code: null, statement: 'Sings alone', years: [], source: null },
        ],
      }
    },
  },
  addStandard: {
    who: lead,
    aboutOneself: true,
    input: () => ({
      setId: randomUUID(),
      expectedVersion: 1,
      parentId: null,
      code: null,
      statement: 'Sings',
      years: [],
    }),
    draw: (random, world) => inSet(random, world),
  },
  saveStandard: {
    who: lead,
    aboutOneself: true,
    input: () => ({
      setId: randomUUID(),
      standardId: randomUUID(),
      expectedVersion: 1,
      parentId: null,
      code: null,
      statement: 'Sings',
      years: [],
    }),
    draw: (random, world) => inSet(random, world),
  },
  removeStandard: {
    who: lead,
    aboutOneself: true,
    input: () => ({ setId: randomUUID(), standardId: randomUUID(), expectedVersion: 1 }),
    draw: (random, world) => inSet(random, world),
  },
  setAnswers: {
    who: teacherOwn,
    input: (o) => ({
      assessmentId: o.assessmentId,
      cells: [{ key: { studentId: o.studentId }, value: null, expectedVersion: 0 }],
    }),
  },
}
