import fc from 'fast-check'
import { cases } from './cases'

// Before the tests of every file: properties that name no number of cases of their own are tried with a hundred.
fc.configureGlobal({ numRuns: cases(100) })
