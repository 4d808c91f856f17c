'use client'
import { PageError } from '@/screen/page-error'

/** A page of the school that could not be made; the rail stays around it. */
export default PageError
