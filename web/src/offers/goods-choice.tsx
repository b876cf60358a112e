import type { Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { Many } from '../ui/choose'
import { FieldError } from '../ui/field-error'
import { Typed } from '../ui/typed'
import { useState } from 'react'
import { Tick } from '../ui/tick'

type Goods = Schemas['GoodsChoice']

const split = (text: string) =>
  text
    .split(/[,;\n]/)
    .map((part) => part.trim())
    .filter(Boolean)

/** Goods picked by class, tag, SKU or the hazard mark. */
export function GoodsChoiceEditor({
  label,
  goods,
  put,
  error,
}: {
  label: string
  goods: Goods | null | undefined
  put: (goods: Goods | null) => void
  error: string | undefined
}) {
  const { setup } = useWorkshop()
  const send = (fields: Partial<Goods>) => {
    const next = { ...goods, ...fields }
    const said = next.classes?.length || next.tags?.length || next.skus?.length || next.hazardous
    put(said ? next : null)
  }
  return (
    <div className="flex flex-col gap-1.5">
      <Many
        list={setup.classes}
        chosen={goods?.classes ?? []}
        label={`${label}: class`}
        put={(classes) => send({ classes })}
      />
      <span className="flex flex-wrap items-end gap-4">
        <Tick className="min-h-8" on={goods?.hazardous ?? false} change={(on) => send({ hazardous: on })}>
          anything with the hazard mark
        </Tick>
        <Texts
          key={`tags ${(goods?.tags ?? []).join()}`}
          label={`${label}: tags`}
          placeholder="tags, commas between"
          texts={goods?.tags ?? []}
          put={(tags) => send({ tags })}
        />
        <Texts
          key={`skus ${(goods?.skus ?? []).join()}`}
          label={`${label}: SKUs`}
          placeholder="SKUs, commas between"
          texts={goods?.skus ?? []}
          put={(skus) => send({ skus })}
        />
      </span>
      {error && <FieldError>{error}</FieldError>}
    </div>
  )
}

/** A list that is typed as one text. */
export function Texts({
  label,
  placeholder,
  texts,
  put,
  error,
}: {
  label: string
  placeholder: string
  texts: string[]
  put: (texts: string[]) => void
  error?: string | undefined
}) {
  const [text, setText] = useState(texts.join(', '))
  return (
    <Typed
      label={label}
      hideLabel
      width="w-56"
      placeholder={placeholder}
      value={text}
      error={error}
      change={setText}
      commit={() => split(text).join() !== texts.join() && put(split(text))}
    />
  )
}
