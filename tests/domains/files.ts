import { row, type Entries } from './entry'

export const entries: Entries = {
  describe: {
    who: row({ administrator: 'all', head: 'all', teacher: 'all' }),
    input: (o) => ({ documentId: o.documentId }),
  },
  readPart: {
    who: row({ administrator: 'all', head: 'all', teacher: 'all' }),
    input: (o) => ({ documentId: o.documentId, from: 0, most: 1 }),
  },
  upload: {
    who: row({ administrator: 'all', head: 'all', teacher: 'all' }),
    aboutOneself: true,
    input: () => ({
      name: 'x.pdf',
      bytes: Buffer.from('no'),
      mediaType: 'application/pdf',
      pageCount: 1,
    }),
  },
}
