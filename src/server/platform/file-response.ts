/** Sends bytes as a PDF that a browser shows or saves, but can never run as a page; files of another type it only saves. */
export function fileResponse(
  body: Buffer | ReadableStream<Uint8Array>,
  name: string,
  size = body instanceof Buffer ? body.length : undefined,
  mediaType = 'application/pdf',
): Response {
  const sent: BodyInit =
    body instanceof Buffer ? new Uint8Array(body) : (body as ReadableStream<Uint8Array<ArrayBuffer>>)
  return new Response(sent, {
    headers: {
      'Content-Type': mediaType,
      'Content-Disposition': `${mediaType === 'application/pdf' ? 'inline' : 'attachment'}; filename*=UTF-8''${encodeURIComponent(name)}`,
      'Content-Security-Policy': "default-src 'none'; style-src 'unsafe-inline'; sandbox",
      'X-Content-Type-Options': 'nosniff',
      'Cache-Control': 'private, no-store',
      ...(size === undefined ? {} : { 'Content-Length': String(size) }),
    },
  })
}
