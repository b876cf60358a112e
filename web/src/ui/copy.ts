import { toast } from './toast'

/** Puts a text on the clipboard, and says so, or what to do where the browser does not let the page. */
export async function copy(text: string, what: string) {
  try {
    await navigator.clipboard.writeText(text)
    toast(`Copied: ${what}`)
  } catch {
    toast('The browser does not let this page copy. Mark the text and copy it yourself.')
  }
}
