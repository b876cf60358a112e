import { element } from './frame'

/** Behind a button. */
export function inDialog(
  parts: HTMLElement[],
  words: { open: string; close: string; title: string },
): HTMLElement[] {
  const close = element('button', { type: 'button', part: 'button' }, words.close)
  const dialog = element('dialog', { part: 'dialog', 'aria-label': words.title }, ...parts, close)
  const open = element('button', { type: 'button', part: 'button open' }, words.open)
  open.addEventListener('click', () => dialog.showModal())
  close.addEventListener('click', () => dialog.close())
  return [open, dialog]
}

/** Beside what stands inside of the tag, which comes first: the product's description, say. */
export function inTab(parts: HTMLElement[], names: [string, string]): HTMLElement[] {
  const panels = [element('div', {}, element('slot')), element('div', {}, ...parts)]
  const tabs = names.map((name, at) => {
    const tab = element(
      'button',
      { type: 'button', role: 'tab', id: `tab-${at}`, 'aria-controls': `panel-${at}`, part: 'tab' },
      name,
    )
    tab.addEventListener('click', () => choose(at))
    return tab
  })
  const choose = (chosen: number, focus = false) => {
    tabs.forEach((tab, at) => {
      tab.setAttribute('aria-selected', String(at === chosen))
      tab.tabIndex = at === chosen ? 0 : -1
      panels[at]!.hidden = at !== chosen
    })
    if (focus) tabs[chosen]!.focus()
  }
  panels.forEach((panel, at) => {
    panel.id = `panel-${at}`
    panel.setAttribute('role', 'tabpanel')
    panel.setAttribute('aria-labelledby', `tab-${at}`)
  })
  const list = element('div', { role: 'tablist', part: 'tabs' }, ...tabs)
  list.addEventListener('keydown', (event) => {
    const to = { ArrowLeft: 0, Home: 0, ArrowRight: 1, End: 1 }[event.key]
    if (to === undefined) return
    event.preventDefault()
    choose(to, true)
  })
  choose(0)
  return [list, ...panels]
}
