import type { Metadata } from 'next'
import { headers } from 'next/headers'
import type { ReactNode } from 'react'
import { StyleNonce } from '@/screen/style-nonce'
import { keepTypedEarly } from './typed-early'
import './globals.css'

export const metadata: Metadata = {
  icons: { icon: '/icon.svg' },
}

export default async function RootLayout({ children }: { children: ReactNode }) {
  const nonce = (await headers()).get('x-nonce') ?? ''
  return (
    <html lang="en">
      <body>
        {/* The browser hides a nonce from scripts, so React finds none here. */}
        <script
          nonce={nonce}
          suppressHydrationWarning
          dangerouslySetInnerHTML={{ __html: `(${keepTypedEarly.toString()})()` }}
        />
        <StyleNonce nonce={nonce} />
        {children}
      </body>
    </html>
  )
}
