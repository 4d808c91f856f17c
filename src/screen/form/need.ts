import type { z } from 'zod'

interface Parts {
  readonly shape?: Readonly<Record<string, z.ZodType>>
  readonly element?: z.ZodType
  readonly def?: { readonly in?: z.ZodType; readonly innerType?: z.ZodType }
}

/** The schema of one field, by its dotted path. */
function fieldOf(schema: z.ZodType | undefined, path: readonly string[]): z.ZodType | undefined {
  const [name, ...rest] = path
  if (name === undefined || schema === undefined) return schema
  const { shape, element, def } = schema as Parts
  if (shape) return fieldOf(shape[name], rest)
  if (element) return fieldOf(element, rest)
  const within = def?.in ?? def?.innerType
  return within && fieldOf(within, path)
}

/**
 * Whether a field of a form may stay empty, as its command's schema says.
 * @returns undefined where the schema has no such field
 */
export function needOf(schema: z.ZodType, path: string): 'required' | 'optional' | undefined {
  const field = fieldOf(schema, path.split('.'))
  if (!field) return undefined
  return ['', null].some((empty) => field.safeParse(empty).success) ? 'optional' : 'required'
}
