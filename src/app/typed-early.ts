type Typed = HTMLInputElement | HTMLTextAreaElement | HTMLSelectElement

/**
 * Keeps what is typed before a page is live. A form reads its fields for the first time when its script runs, and what
 * was typed until then would be overwritten by what the page was opened with. This runs as the page's first script, by
 * itself: it remembers each field that is typed into while React does not hold it yet, and types it again, as the person
 * did, once React does. It may use nothing from outside itself, because the page carries its source as text.
 */
export function keepTypedEarly(): void {
  const early = new Map<Typed, string | boolean>()
  const isTick = (field: Typed) => field.type === 'checkbox' || field.type === 'radio'
  const isLive = (field: Typed) => Object.keys(field).some((key) => key.startsWith('__reactProps'))
  const stateOf = (field: Typed) => (isTick(field) ? (field as HTMLInputElement).checked : field.value)

  function typeAgain(field: Typed, typed: string | boolean): void {
    if (typeof typed === 'boolean') {
      // A press turns it over, so it begins as the other.
      ;(field as HTMLInputElement).checked = !typed
      field.click()
      return
    }
    // React compares with the value it was told last; told another one first, it takes this for typing.
    field.value = field instanceof HTMLSelectElement ? field.value : ''
    const own = Object.getOwnPropertyDescriptor(Object.getPrototypeOf(field) as object, 'value')
    own?.set?.call(field, typed)
    field.dispatchEvent(new Event(field instanceof HTMLSelectElement ? 'change' : 'input', { bubbles: true }))
  }
  function look(): void {
    for (const [field, typed] of early) {
      if (!field.isConnected) early.delete(field)
      else if (isLive(field)) {
        early.delete(field)
        // Once the form has read its fields, which it does when its whole part of the page is live.
        const asTyped = stateOf(field)
        setTimeout(() => {
          // Who went on typing meanwhile was heard by React itself.
          if (stateOf(field) === asTyped || field.value === '') typeAgain(field, typed)
        }, 100)
      }
    }
    if (early.size > 0) setTimeout(look, 50)
  }
  function remember(event: Event): void {
    const field = event.target
    if (!(
      field instanceof HTMLInputElement ||
      field instanceof HTMLTextAreaElement ||
      field instanceof HTMLSelectElement
    ))
      return
    if (isLive(field)) return
    if (early.size === 0) setTimeout(look, 50)
    early.set(field, stateOf(field))
  }
  addEventListener('input', remember, true)
  addEventListener('change', remember, true)
}
