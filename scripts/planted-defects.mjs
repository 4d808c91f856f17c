// Defects that Kedge once had, each as what to write in place of what stands there now. The walk has to find them.
const people = 'src/server/people'
const year = 'src/server/year'
const attendance = 'src/server/attendance'
export const defects = [
  {
    words: 'Students are in classes and groups after they have left',
    changes: [
      [
        `${people}/memberships.ts`,
        '      enrolled.get(studentId) ?? [],\n    )\n  })\n  await writeMemberships(context, kind, before, after)',
        "      [{ placeId: '', from: '1900-01-01', until: null }],\n    )\n  })\n  await writeMemberships(context, kind, before, after)",
      ],
    ],
  },
  {
    words: 'A class is carried forward with students beyond their last day',
    changes: [
      [
        `${people}/carry-members.ts`,
        "daterange(${to.firstDay}::date, ${enrolledUntil(sql.ref('m.student_id'), to.firstDay)})",
        'daterange(${to.firstDay}::date, null)',
      ],
    ],
  },
  {
    words: 'A new class takes students of its homerooms beyond their last day',
    changes: [
      [
        `${people}/carry-members.ts`,
        "daterange(${from}::date, ${enrolledUntil(sql.ref('m.student_id'), from)})",
        'daterange(${from}::date, null)',
      ],
    ],
  },
  {
    words: 'Somebody is given a class or a homeroom beyond their own last day',
    changes: [
      [`${year}/teachers.ts`, "least(${awayFrom('s')}, (", 'least(null::date, ('],
      [`${year}/teachers.ts`, "if (gone) throw refuseField('staffIds', 'staffGone', gone)", 'void gone'],
    ],
  },
  {
    words: 'Somebody covers a lesson after their last day',
    changes: [
      [
        'src/server/timetable/changes.ts',
        "if (gone) throw refuseField('staffId', 'staffGone', gone)",
        'void gone',
      ],
    ],
  },
  {
    words: 'Who leaves keeps classes and homerooms',
    changes: [
      [
        'src/server/front/staffing.ts',
        'await giveUpPosts(context, staffId, successorId, away)',
        'void giveUpPosts',
      ],
    ],
  },
  {
    words: 'Who leaves keeps the lessons to cover',
    changes: [['src/server/front/staffing.ts', 'await endCover(context, staffId, away)', 'void endCover']],
  },
  {
    words: 'A homeroom is closed over the heads of its students',
    changes: [
      [`${year}/homerooms.ts`, 'if (found && found.students > 0)', 'if (found && found.students > 99_999)'],
    ],
  },
  {
    words: 'Students are put into a homeroom after its last day',
    changes: [
      [`${people}/memberships.ts`, 'if (homeroom.lastDay !== null)\n', "if (homeroom.lastDay === '')\n"],
    ],
  },
  {
    words: 'An undo breaks rules that only commands know',
    changes: [
      ['src/server/front/history.ts', "if (broken) throw refuse('wouldBreak', broken)", 'void broken'],
    ],
  },
  {
    words: 'Something is done to a record that was merged into another',
    changes: [
      [
        `${people}/memberships.ts`,
        "if (merged) throw refuse('merged', { name: merged.sortName })",
        'void merged',
      ],
    ],
  },
  {
    words: 'Marks count on days that lost their school',
    changes: [
      [`${attendance}/index.ts`, 'followSessions(keepMarksApart)', 'void [followSessions, keepMarksApart]'],
    ],
  },
  {
    words: 'Marks keep a code that is not in use on their day',
    changes: [[`${attendance}/code-sets.ts`, '    await recode(context)\n', '    void recode\n']],
  },
  {
    words: 'Absences are planned on days without their code',
    changes: [[`${attendance}/code-sets.ts`, '    await checkPlans(context)\n', '    void checkPlans\n']],
  },
  {
    words: 'Marks are given to students who are not on the roll',
    changes: [
      [
        `${attendance}/set-marks.ts`,
        "if (!onRoll.has(key.studentId)) throw refuse('notOnRoll', { date })",
        'void onRoll',
      ],
    ],
  },
  {
    words: 'Scores are given to students of other classes',
    changes: [
      [
        'src/server/marks/set-scores.ts',
        "if (members.length < studentIds.length) throw refuse('notInClass', {})",
        'void members',
      ],
    ],
  },
  {
    words: 'The same act sent twice is done twice',
    changes: [
      [
        'src/server/platform/run.ts',
        '  if (claimed) return undefined\n',
        "  if (claimed || key !== '') return undefined\n",
      ],
    ],
  },
  {
    words: 'An undo leaves rows that the act had made',
    changes: [
      [
        'src/server/platform/undo.ts',
        'restored.push(...(await undo.remove(part.filter((change) => !needed.has(change)))))',
        'void [restored, part]',
      ],
    ],
  },
  {
    words: 'A guardian reads of other children',
    changes: [
      [
        'src/server/school/relations.ts',
        "words: 'is a guardian who receives reports',\n  holds: ({ actor }, id) =>",
        "words: 'is a guardian who receives reports',\n  holds: () => sql<boolean>`true`,\n}\nexport const formerly: Relation = {\n  words: '',\n  holds: ({ actor }, id) =>",
      ],
    ],
  },
  {
    words: 'Characters that cannot be stored end in a fault',
    changes: [
      [
        'src/server/platform/run.ts',
        '  const name = nameOf(command)\n  const bad = unstorable(rawInput)\n',
        '  const name = nameOf(command)\n  const bad = undefined as ReturnType<typeof unstorable>\n',
      ],
    ],
  },
]
