import { LoadingPage } from '@/screen/loading-page'

/** Shown while a page is being made. */
export default LoadingPage
