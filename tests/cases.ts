/**
 * How many cases a property or simulation is tried with: its own number, or for all of them alike what KEDGE_RUNS says.
 * @example KEDGE_RUNS=5000 npm test -- core/marks
 */
export const cases = (own: number): number => Number(process.env.KEDGE_RUNS ?? own)
