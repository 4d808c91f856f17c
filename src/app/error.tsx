'use client'
import { PageError } from '@/screen/page-error'

/** A page that could not be made, with all that is around it. */
export default PageError
