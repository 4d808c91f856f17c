/** A code set to begin with: code, label and what it means for the figures. */
export const usualCodes = [
  ['P', 'Present', 'present'],
  ['L', 'Late, before the register closes', 'late'],
  ['A', 'Absent, no reason yet', 'absent without reason'],
  ['A1', 'Absent, illness', 'absent with reason'],
  ['A2', 'Absent, agreed leave', 'absent with reason'],
  ['A3', 'Absent, medical appointment', 'absent with reason'],
  ['E1', 'Elsewhere, field work', 'elsewhere'],
  ['E2', 'Elsewhere, examination', 'elsewhere'],
  ['N', 'Not expected', 'not expected'],
] as const
