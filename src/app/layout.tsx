import type { Metadata } from 'next'
import { headers } from 'next/headers'
import type { ReactNode } from 'react'
import { StyleNonce } from '@/screen/style-nonce'
import './globals.css'

export const metadata: Metadata = {
  icons: { icon: '/icon.svg' },
}

export default async function RootLayout({ children }: { children: ReactNode }) {
  const nonce = (await headers()).get('x-nonce') ?? ''
  return (
    <html lang="en">
      <body>
        <StyleNonce nonce={nonce} />
        {children}
      </body>
    </html>
  )
}
