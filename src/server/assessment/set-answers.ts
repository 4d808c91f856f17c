import { z } from 'zod'
import { readLetters, writeLetters } from '@/core/assessment/answer-key'
import { Refusal, refuse, refuseField } from '@/server/platform/failure'
import { expectedVersion, id } from '@/server/platform/inputs'
import { defineCommand } from '@/server/platform/registry'
import { assessmentChanged } from './changed'
import { loadQuestions, loadSheets } from './load-assessment'
import { mayEditAssessment } from './policy'

/**
 * Keeps one student's answers, typed as one string with `.` for a question left out; the score follows at once. An
 * empty string takes them away again, as if the student had not been there.
 */
export const setAnswers = defineCommand({
  name: 'assessment.setAnswers',
  input: z.object({ assessmentId: id, studentId: id, letters: z.string().max(400), expectedVersion }),
  allow: mayEditAssessment,
  run: async (context, asked) => {
    const { db, actor, now } = context
    const questions = await loadQuestions(db, asked.assessmentId)
    const read = readLetters(
      asked.letters,
      questions.map((q) => q.choices),
    )
    const answered = asked.letters.trim() !== ''
    if (!answered && asked.expectedVersion === 0)
      throw refuseField('letters', 'This student has no answers that could be taken away.')
    if (answered && !read.complete) throw refuseField('letters', read.problems.join(' '))
    const [sheet] = await loadSheets(db, asked.assessmentId, asked.studentId)
    if (!sheet) throw refuse('This student was in none of the classes on the day the assessment was given.')
    const key = { school_id: actor.schoolId, assessment_id: asked.assessmentId, student_id: asked.studentId }
    const own = { answered, changed_by: actor.name, changed_at: now }
    const written =
      asked.expectedVersion === 0
        ? await db
            .insertInto('answer_sheet')
            .values({ ...key, ...own })
            .onConflict((c) => c.doNothing())
            .returning('version')
            .executeTakeFirst()
        : await db
            .updateTable('answer_sheet')
            .set((eb) => ({ ...own, version: eb('version', '+', 1) }))
            .where('assessment_id', '=', key.assessment_id)
            .where('student_id', '=', key.student_id)
            .where('version', '=', asked.expectedVersion)
            .returning('version')
            .executeTakeFirst()
    if (!written) {
      const current = {
        letters: sheet.answered ? writeLetters(questions.map((q) => sheet.answers.get(q.id))) : '',
        version: sheet.version,
        changedBy: sheet.changedBy,
      }
      throw new Refusal({
        kind: 'conflict',
        message: `${sheet.changedBy ?? 'Somebody'} typed answers for this student meanwhile.`,
        current,
      })
    }
    const given = questions.flatMap((q, i) => {
      const choice = read.letters[i]
      return choice ? [{ ...key, question_id: q.id, choice }] : []
    })
    await db
      .deleteFrom('answer')
      .where('assessment_id', '=', key.assessment_id)
      .where('student_id', '=', key.student_id)
      .$if(given.length > 0, (q) =>
        q.where(
          'question_id',
          'not in',
          given.map((g) => g.question_id),
        ),
      )
      .execute()
    if (given.length > 0)
      await db
        .insertInto('answer')
        .values(given)
        .onConflict((c) =>
          c
            .columns(['school_id', 'assessment_id', 'student_id', 'question_id'])
            .doUpdateSet((eb) => ({ choice: eb.ref('excluded.choice') })),
        )
        .execute()
    await assessmentChanged(context, asked.assessmentId)
    return { version: written.version }
  },
})
