import { staffRoles } from '@/server/platform/actor'
import { onlyRoles } from '@/server/platform/rights'

export const seeStructure = onlyRoles('see the year and its structure', ...staffRoles)
export const setUpYear = onlyRoles('set up the academic year', 'administrator')
export const seeSettings = onlyRoles('see the settings of the school', 'administrator', 'head', 'office')
export const changeSettings = onlyRoles('change the settings of the school', 'administrator')
export const checkSetUp = onlyRoles('check the set-up', 'administrator', 'head', 'office')
