import Bowser from 'bowser'

/**
 * A browser in words, by which its person knows it again: "Firefox on Windows".
 * @param userAgent what the browser calls itself; anything at all
 */
export function browserInWords(userAgent: string | null): string {
  if (!userAgent) return 'Unknown browser'
  const found = Bowser.parse(userAgent.slice(0, 500))
  const browser = found.browser.name || 'Unknown browser'
  const system = found.os.name
  return system ? `${browser} on ${system}` : browser
}
