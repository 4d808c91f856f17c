import { defineTopic } from '@/server/platform/topic'

/** Who works at the school, and with which account. */
export const staffTopic = defineTopic('staff')
