import type { ReactNode } from 'react'
import { useWorkshop } from '../edits/workshop'
import { copy } from '../ui/copy'
import { Button } from '../ui/button'
import { attributesOf, tagOf, type PartName, type Parts } from './parts'
import { PartPreview } from './preview'

interface Props {
  name: PartName
  title: string
  what: string
  parts: Parts
  children: ReactNode
}

/** One part: its settings, how it looks with the bench's cart, and the tag to copy. */
export function ShopPart({ name, title, what, parts, children }: Props) {
  const { setup } = useWorkshop()
  const settings = attributesOf(name, parts, setup)
  const tag = tagOf(name, settings, location.origin)
  return (
    <section aria-label={title} className="border-t border-ink pt-2">
      <h2 className="text-lg">{title}</h2>
      <p className="mb-2 max-w-3xl text-soft">{what}</p>
      <div className="grid gap-x-8 gap-y-3 xl:grid-cols-[minmax(0,1fr)_minmax(0,26rem)]">
        <div className="flex flex-col items-start gap-3">
          {children}
          <pre
            className="w-full overflow-x-auto border border-edge bg-white p-2 text-xs whitespace-pre-wrap"
            tabIndex={0}
            aria-label={`The tag: ${title}`}
          >
            {tag}
          </pre>
          <Button onClick={() => void copy(tag, 'the tag')}>Copy the tag</Button>
        </div>
        <div
          role="group"
          aria-label={`${title} for the bench cart`}
          className="self-start border border-hair bg-white p-3"
        >
          <p className="mb-2 font-cond text-soft">For the bench cart, by the draft</p>
          <PartPreview name={name} settings={settings} />
        </div>
      </div>
    </section>
  )
}
