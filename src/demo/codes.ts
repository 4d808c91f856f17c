import { usualCodes } from '@/core/attendance/usual-codes'

type Code = readonly [code: string, label: string, meaning: (typeof usualCodes)[number][2]]

/** The usual codes, with the island's own: on stormy days the ferry does not run. */
export const wracklineCodes: readonly Code[] = usualCodes.flatMap((code): Code[] =>
  code[0] === 'N' ? [['W', 'Ferry not running', 'absent with reason'], [...code]] : [[...code]],
)

export const codeSetId = '00000000-0000-7000-8000-c0de5e700000'
