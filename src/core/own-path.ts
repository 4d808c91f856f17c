const here = 'http://kedge.invalid'

/**
 * The page of Kedge that an address in a link names, for going on there.
 * @param asked as it came with the link; read as a browser reads it, which takes `\` for `/` and leaves out tabs
 * @returns path, query and fragment; the first page where the address would leave Kedge
 */
export function ownPath(asked: string | undefined): string {
  if (!asked?.startsWith('/') || !URL.canParse(asked, here)) return '/'
  const { origin, pathname, search, hash } = new URL(asked, here)
  // What is left is parsed once more by the browser: a path of two slashes would name a host.
  return origin === here && !pathname.startsWith('//') ? `${pathname}${search}${hash}` : '/'
}
