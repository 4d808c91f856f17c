declare const brand: unique symbol
/** Something whose changes pages follow: a homeroom's register, a class's gradebook. */
export type Topic = string & { readonly [brand]: 'topic' }

/** Declares a kind of topic; called with the identifiers of what it is about it names one. */
export const defineTopic =
  <A extends readonly string[]>(name: string, ..._identifiers: { [K in keyof A]: string }) =>
  (...about: A): Topic =>
    [name, ...about].join(':') as Topic
