import type { ExternalToast } from 'sonner'

// The notices come when the first is given: the page itself does without them.
const notices = () => import('sonner')

/** Tells something in passing, with at most one thing to do about it. */
export function toast(text: string, more?: ExternalToast) {
  void notices().then((found) => found.toast(text, more))
}

toast.error = (text: string) => {
  void notices().then((found) => found.toast.error(text))
}
