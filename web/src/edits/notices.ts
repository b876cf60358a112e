import { messageOf, type Change } from '../api/client'
import { toast } from '../ui/toast'
import { sentenceOfChange } from '../words/history'

/** What has been done, and the way to take exactly that back where there is one. */
export function tell(text: string, undo?: () => void) {
  toast(text, undo ? { action: { label: 'Undo', onClick: undo } } : {})
}

export function saidOfStep(kind: 'undo' | 'redo', change: Change | null | undefined): string {
  return `${kind === 'undo' ? 'Undone' : 'Done again'}: ${change ? sentenceOfChange(change) : ''}`
}

export function tellOvertaken(later: Change) {
  toast.error(`It cannot be undone alone: ${sentenceOfChange(later)} came after it. Undo that first.`)
}

export function tellRefused(error: unknown) {
  toast.error(messageOf(error))
}
