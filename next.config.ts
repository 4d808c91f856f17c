import type { NextConfig } from 'next'

const config: NextConfig = {
  poweredByHeader: false,
  reactStrictMode: true,
  devIndicators: false,
  // Said here, answers of queries are compressed: what a route says itself comes too late for that.
  headers: () =>
    Promise.resolve([
      { source: '/api/query/:name', headers: [{ key: 'Content-Type', value: 'application/json' }] },
    ]),
  // Types are a part of npm test, for all code and once.
  typescript: { ignoreBuildErrors: true },
  // These read files beside themselves (fonts, workers) and must stay what they are.
  serverExternalPackages: [
    'pdfkit',
    'pg',
    'better-auth',
    'graphile-worker',
    'pdfjs-dist',
    'nodemailer',
    'mailparser',
    'exceljs',
  ],
}

export default config
