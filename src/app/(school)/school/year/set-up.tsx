'use client'
import dynamic from 'next/dynamic'

// Most people only read this page; its forms load where they are used.
export const NewYear = dynamic(() => import('./new-year').then((m) => m.NewYear))
export const YearGroups = dynamic(() => import('./year-groups').then((m) => m.YearGroups))
