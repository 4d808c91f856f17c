import type { Failure, FieldProblem } from './failure'

const control = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f]/

/** No input has objects and lists within each other as deep as this. */
const deepest = 30

/**
 * Looks through an input for what cannot be stored or shown: control characters, halves of characters, and
 * objects within objects without end.
 * @returns the failure that names every such field, or undefined
 */
export function unstorable(input: unknown): Failure | undefined {
  const fields: FieldProblem[] = []
  const look = (value: unknown, path: string, depth: number): void => {
    if (depth > deepest) {
      if (fields.length === 0) fields.push({ path: '', message: 'This input has too many levels.' })
    } else if (typeof value === 'string') {
      if (control.test(value) || !isWellFormed(value))
        fields.push({
          path,
          message: 'This text contains a character that cannot be saved. Delete it and type it again.',
        })
    } else if (Array.isArray(value))
      value.forEach((item, i) => look(item, path ? `${path}.${i}` : `${i}`, depth + 1))
    else if (typeof value === 'object' && value !== null && !(value instanceof Uint8Array))
      for (const [key, inner] of Object.entries(value)) look(inner, path ? `${path}.${key}` : key, depth + 1)
  }
  look(input, '', 0)
  return fields.length > 0 ? { kind: 'invalid', message: fields[0]?.message ?? '', fields } : undefined
}

const isWellFormed = (text: string) =>
  !/[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/.test(text)
