/** From this share, and this many students, a register's absences are unusual. */
const share = 0.25
const least = 5

/** Whether unusually many are away from a register: a quarter of those marked, and at least five. */
export const manyAway = ({ away, marked }: { readonly away: number; readonly marked: number }): boolean =>
  away >= least && away >= share * marked
