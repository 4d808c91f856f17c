/** What teachers see of students they do not teach, from little to much. */
export const teachersSee = ['places', 'details', 'contacts'] as const
export type TeachersSee = (typeof teachersSee)[number]
