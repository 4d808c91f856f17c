/** Thrown by `progress` when the work was cancelled. */
export class Cancelled extends Error {
  constructor(
    readonly done: number,
    readonly total: number,
  ) {
    super('cancelled')
  }
}
