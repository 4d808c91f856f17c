import { domains } from '@/server/domains'
import type { Domain } from '@/server/platform/define'

/** The domains without their types, for composing what they all contribute to. */
export const all: readonly Domain[] = domains

/** What all domains contribute of one kind. */
export const fromAll = <T>(of: (domain: Domain) => readonly T[] | undefined): readonly T[] =>
  all.flatMap((domain) => of(domain) ?? [])
