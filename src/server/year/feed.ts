import { z } from 'zod'
import { defineCommand, defineQuery } from '@/server/platform/define'
import { hasFeed, setFeedToken } from '@/server/platform/feed'
import { seeStructure } from './rights'

/** Whether the actor has a secret calendar address. */
export const feed = defineQuery({
  input: z.object({}),
  right: seeStructure,
  run: async (context) => ({ there: await hasFeed(context) }),
})

/** Makes a secret calendar address, or replaces it. It is made in the browser and kept here only as a hash. */
export const setFeed = defineCommand({
  input: z.object({ token: z.string().regex(/^[\w-]{43}$/) }),
  right: seeStructure,
  needsNoVersion: "replaces the actor's own address",
  run: async (context, { token }) => {
    await setFeedToken(context, token)
    return null
  },
})
