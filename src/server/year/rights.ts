import { staffRoles } from '@/server/platform/actor'
import { onlyRoles } from '@/server/platform/rights'

export const seeStructure = onlyRoles('see the year and its structure', ...staffRoles)
export const setUpYear = onlyRoles('set up the academic year', 'administrator')
export const checkSetUp = onlyRoles('check the set-up', 'administrator', 'head', 'office')
