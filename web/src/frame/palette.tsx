import { byId } from '../api/by-id'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { Command } from 'cmdk'
import { Dialog } from 'radix-ui'
import { useRef, useState, type ReactNode } from 'react'
import { useNavigate } from 'react-router'
import { api, answerOf } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { useBenchCart } from '../cart/cart'
import { sentenceOfChange } from '../words/history'
import { PLACES } from '../pages/pages'

/** Everything by name: sections, zones, classes, treatments, rates, methods, goods for the bench, undo and redo. */
export function Palette({ open, setOpen }: { open: boolean; setOpen: (open: boolean) => void }) {
  const chose = useRef(false)
  const close = () => {
    chose.current = true
    setOpen(false)
  }
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/30" />
        <Dialog.Content
          aria-describedby={undefined}
          onCloseAutoFocus={(event) => {
            // What was chosen takes the focus; only a palette closed without a choice gives it back.
            if (chose.current) event.preventDefault()
            chose.current = false
          }}
          className="fixed top-[12vh] left-1/2 z-50 w-[34rem] max-w-[94vw] -translate-x-1/2 border border-ink bg-white"
        >
          <Dialog.Title className="sr-only">Find or do something</Dialog.Title>
          <Entries close={close} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}

function Entries({ close }: { close: () => void }) {
  const { setup, undo, redo } = useWorkshop()
  const { add } = useBenchCart()
  const navigate = useNavigate()
  const [text, setText] = useState('')
  const { data } = useQuery({
    queryKey: ['products', 'palette', text],
    queryFn: ({ signal }) =>
      answerOf(api.GET('/api/products', { params: { query: { limit: 6, q: text } }, signal })),
    enabled: text.trim().length > 1,
    placeholderData: keepPreviousData,
  })
  const go = (path: string) => () => {
    close()
    void navigate(path)
  }
  const run = (action: () => unknown) => () => {
    close()
    void action()
  }
  const { undo: last, redo: next } = setup.history
  return (
    <Command
      label="Find or do something"
      filter={(value, search) =>
        search.split(/\s+/).every((word) => value.toLowerCase().includes(word.toLowerCase())) ? 1 : 0
      }
    >
      <Command.Input
        className="w-full border-b border-ink px-3 py-2.5 text-base"
        placeholder="A section, a zone, a method, goods …"
        value={text}
        onValueChange={setText}
      />
      <Command.List className="max-h-[50vh] overflow-auto p-1">
        <Command.Empty className="px-2 py-3 text-soft">Nothing of this name.</Command.Empty>
        <Command.Group
          heading="Go to"
          className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:font-cond [&_[cmdk-group-heading]]:text-soft"
        >
          {PLACES.map(({ at, name }) => (
            <Entry key={at} value={`section ${name}`} select={go(at)}>
              {name}
            </Entry>
          ))}
        </Command.Group>
        <Command.Group
          heading="Do"
          className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:font-cond [&_[cmdk-group-heading]]:text-soft"
        >
          {last && (
            <Entry value={`undo ${sentenceOfChange(last)}`} select={run(undo)}>
              Undo: {sentenceOfChange(last)}
            </Entry>
          )}
          {next && (
            <Entry value={`redo ${sentenceOfChange(next)}`} select={run(redo)}>
              Redo: {sentenceOfChange(next)}
            </Entry>
          )}
          <Entry
            value="add zone new"
            select={run(() => {
              void navigate('/')
              setTimeout(() => document.getElementById('new-zone')?.focus(), 50)
            })}
          >
            Add a zone
          </Entry>
        </Command.Group>
        {text && (
          <Command.Group
            heading="Setup"
            className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:font-cond [&_[cmdk-group-heading]]:text-soft"
          >
            {setup.zones.map((zone) => (
              <Entry key={zone.id} value={`zone ${zone.name} ${zone.id}`} select={go(`/#zone=${zone.id}`)}>
                Zone {zone.name}
              </Entry>
            ))}
            {setup.classes.map(({ id, name }) => (
              <Entry key={id} value={`class ${name} ${id}`} select={go(`/goods/classes#class=${id}`)}>
                Class {name}
              </Entry>
            ))}
            {setup.treatments.map(({ id, name }) => (
              <Entry
                key={id}
                value={`treatment ${name} ${id}`}
                select={go(`/goods/treatments#treatment=${id}`)}
              >
                Treatment {name}
              </Entry>
            ))}
            {setup.offers.map(({ id, name }) => (
              <Entry key={id} value={`offer ${name} ${id}`} select={go(`/offers#offer=${id}`)}>
                Offer {name}
              </Entry>
            ))}
            {setup.rules.map(({ id, name }) => (
              <Entry key={id} value={`rule ${name} ${id}`} select={go(`/rules#rule=${id}`)}>
                Rule {name}
              </Entry>
            ))}
            {setup.rates.map((rate) => {
              const zone = byId(setup.zones, rate.zone)
              const method = byId(setup.methods, rate.method)
              const name = `${rate.name ?? method?.name} in ${zone?.name}`
              return (
                <Entry
                  key={rate.id}
                  value={`price of ${name} ${rate.id}`}
                  select={go(`/#rate=${rate.id}&field=plan`)}
                >
                  Price of {name}
                </Entry>
              )
            })}
          </Command.Group>
        )}
        {text.trim().length > 1 && (data?.products.length ?? 0) > 0 && (
          <Command.Group
            heading="Put on the bench"
            className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:font-cond [&_[cmdk-group-heading]]:text-soft"
          >
            {data?.products.map((product) => (
              <Entry
                key={product.id}
                value={`goods ${product.name} ${product.sku}`}
                select={run(() => add(product.sku))}
              >
                {product.name} <span className="text-xs opacity-80">{product.sku}</span>
              </Entry>
            ))}
          </Command.Group>
        )}
      </Command.List>
    </Command>
  )
}

function Entry({ value, select, children }: { value: string; select: () => void; children: ReactNode }) {
  return (
    <Command.Item
      value={value}
      onSelect={select}
      className="px-2 py-1.5 first-letter:uppercase data-[selected=true]:bg-ink data-[selected=true]:text-white"
    >
      {children}
    </Command.Item>
  )
}
