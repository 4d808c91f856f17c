/** The migrations that this version of Kedge is made for, in order. A name is kept in databases: it never changes once a release has it. */
export const knownMigrations: readonly string[] = ['001-baseline', '002-assessments', '003-marks']
