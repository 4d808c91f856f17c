import type { AttendanceFigures } from './figures'

/** What a certificate of attendance says. */
export interface Certificate {
  readonly school: string
  readonly schoolAddress: string | null
  readonly student: string
  readonly number: number | null
  readonly birthDate: string | null
  readonly yearGroup: string | null
  readonly homeroom: string | null
  readonly from: string
  readonly to: string
  readonly figures: AttendanceFigures
  readonly issuedBy: string
  readonly issuedOn: string
}
