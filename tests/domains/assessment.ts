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
    input: (o) => ({ assessmentId: o.assessmentId, documentId: o.roundId, expectedVersion: 999 }),
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
