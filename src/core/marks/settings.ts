import { sameName } from '@/core/same-name'
import type { Category, Gradebook, GradebookRules } from './gradebook'

/** A category as settings name it: gradebooks of several classes share names, not identifiers. */
export interface NamedCategory extends Omit<Category, 'id'> {
  /** What it is called in the gradebook now, where it gets another name. */
  readonly was?: string | undefined
}

/** What can be set for a gradebook; the scale is the class's own. */
export interface GradebookSettings extends Omit<GradebookRules, 'bands'> {
  readonly categories: readonly NamedCategory[]
}

/** What a gradebook is set to. */
export function settingsOf({
  rules,
  categories,
}: Pick<Gradebook, 'rules' | 'categories'>): GradebookSettings {
  const { bands: _, ...own } = rules
  return {
    ...own,
    categories: categories.map(({ name, weight, within, dropLowest }) => ({
      name,
      weight,
      within,
      dropLowest,
    })),
  }
}

/** Something with a name, and what it was called where it is renamed. */
interface Renamed {
  readonly name: string
  readonly was?: string | null | undefined
}

export interface Matched<C, L> {
  /** Each line that is wanted with what there is that becomes it; without one it is new. */
  readonly lines: readonly { readonly line: L; readonly own: C | undefined }[]
  /** What is there and wanted no more. */
  readonly gone: readonly C[]
}

/** Which of what is there becomes which line: by the name it has now, each once. */
export function matchByName<C extends { readonly name: string }, L extends Renamed>(
  own: readonly C[],
  lines: readonly L[],
): Matched<C, L> {
  const left = new Set(own)
  const take = (name: string) => {
    const found = [...left].find((c) => sameName(c.name) === sameName(name))
    if (found) left.delete(found)
    return found
  }
  // Those that say what they were come first: a new one may have taken the former name of another.
  const renamed = new Map(lines.flatMap((line) => (line.was ? [[line, take(line.was)] as const] : [])))
  const matched = lines.map((line) => ({ line, own: renamed.get(line) ?? take(line.name) }))
  return { lines: matched, gone: [...left] }
}

/** A gradebook as the settings would make it; its assignments stay in their categories. */
export function withSettings(book: Gradebook, { categories, ...rules }: GradebookSettings): Gradebook {
  return {
    ...book,
    rules: { ...rules, bands: book.rules.bands },
    categories: matchByName(book.categories, categories).lines.map(({ line, own }, i) => ({
      id: own?.id ?? `new ${i}`,
      name: line.name,
      weight: line.weight,
      within: line.within,
      dropLowest: line.dropLowest,
    })),
  }
}

/** What is unusual about the weights: what they add up to, in hundredths; undefined where they make 100 or do not matter. */
export function oddWeights({
  method,
  categories,
}: Pick<GradebookSettings, 'method'> & { categories: readonly { weight: string }[] }): number | undefined {
  if (method === 'points') return undefined
  const sum = categories.reduce((total, c) => total + Math.round(100 * (Number(c.weight) || 0)), 0)
  return sum === 10000 ? undefined : sum
}
