import { byId } from '../api/by-id'
import { Status } from '../ui/alerts'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState, type ReactNode } from 'react'
import { ApiProblem, api, answerOf, type Ladder, type Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { useChoices, useGeography } from '../setup/queries'
import { benchOf, documentOf, useBenchCart } from '../cart/cart'
import { ImportFaults, ImportProgress, ImportSource } from '../forms/importer'
import { useRows } from '../forms/use-import'
import { FieldError } from '../ui/field-error'
import { counted, list, placeName, shortList } from '../ui/locale'
import { levelWords, remarkSentence } from '../words/zones'
import { Select } from '../ui/select'
import { Button } from '../ui/button'
import { Input } from '../ui/input'
import { Fold } from '../ui/fold'

interface Typed {
  country: string
  region: string
  postcode: string
  street: string
}

/** Which zone is this address in? The bench address or any other, with every zone that holds there and why the others do not. */
export function Landing() {
  const { setup } = useWorkshop()
  const { cart } = useBenchCart()
  const { data: choices } = useChoices()
  const { data: geography } = useGeography()
  const [own, setOwn] = useState<Typed | null>(null)
  const shown = own ?? {
    country: cart.country,
    region: cart.region,
    postcode: cart.postcode,
    street: cart.street,
  }
  const address = documentOf({ ...benchOf(null, ''), ...shown }).destination ?? {}
  const { data: ladder, error } = useQuery({
    queryKey: ['landing', setup.revision, address],
    queryFn: ({ signal }) => answerOf(api.POST('/api/landing', { body: address, signal })),
    placeholderData: keepPreviousData,
    retry: false,
  })
  const set = (changes: Partial<Typed>) => setOwn({ ...shown, ...changes })
  const regions = geography?.regions[shown.country] ?? []
  const problem = error instanceof ApiProblem ? error : null
  return (
    <div className="flex flex-col gap-3">
      <div className="flex flex-wrap items-end gap-3">
        <Labelled label="Country">
          <Select
            label="Country"
            className="w-48"
            value={shown.country}
            choices={[
              ['', 'not known'],
              ...(choices?.countries ?? []).map(({ code, name }) => [code, name] as const),
            ]}
            choose={(value) => set({ country: value, region: '' })}
          />
        </Labelled>
        {regions.length > 0 && (
          <Labelled label="Region">
            <Select
              label="Region"
              className="w-44"
              value={shown.region}
              choices={[['', 'not known'], ...regions.map(({ code, name }) => [code, name] as const)]}
              choose={(value) => set({ region: value })}
            />
          </Labelled>
        )}
        <Labelled label="Postcode">
          <Input
            className="w-32"
            maxLength={20}
            placeholder={geography?.forms[shown.country]}
            value={shown.postcode}
            onChange={(event) => set({ postcode: event.target.value })}
          />
        </Labelled>
        <Labelled label="Street">
          <Input
            className="w-44"
            maxLength={120}
            value={shown.street}
            onChange={(event) => set({ street: event.target.value })}
          />
        </Labelled>
        {own && (
          <Button look="quiet" onClick={() => setOwn(null)}>
            Back to the bench’s address
          </Button>
        )}
      </div>
      {problem && <FieldError>{problem.summary}</FieldError>}
      {ladder && !problem && <Rungs ladder={ladder} />}
      <AddressList />
    </div>
  )
}

function Rungs({ ladder }: { ladder: Ladder }) {
  const { setup } = useWorkshop()
  const { data: geography } = useGeography()
  const zone = (id: string) => byId(setup.zones, id)?.name ?? ''
  const { landing } = ladder
  const place = ladder.place as { country?: string }
  const by = (rung: Schemas['Rung']) =>
    rung.clause
      ? `${levelWords(rung.level)}: “${rung.clause}”`
      : rung.level === 'country'
        ? `the whole of ${placeName(rung.country ?? '')}`
        : levelWords(rung.level)
  const lost = (rung: Schemas['Rung']) =>
    ({
      won: landing.status === 'undetermined' ? 'takes it, unless one above does' : 'takes it',
      less_specific: 'also covers it, but is less specific',
      lower: 'also covers it, but is lower in the list',
      open: `may take it: the ${rung.field} decides`,
    })[rung.outcome ?? 'open']
  const missed = (miss: Schemas['Rung']) =>
    miss.reason === 'other_region'
      ? 'is for another region'
      : miss.reason === 'excepted'
        ? `leaves out “${miss.clause}”`
        : `does not list this postcode${miss.near ? `; “${miss.near}” is close, but does not match` : ''}`
  return (
    <section aria-label="Where it lands" className="max-w-3xl">
      <Status className="text-base font-semibold">
        {landing.status === 'zone' && `This address is in ${zone(landing.zone ?? '')}.`}
        {landing.status === 'none' && 'No zone covers this address.'}
        {landing.status === 'undetermined' &&
          `Not enough to tell: the ${landing.decides} decides between ${list((landing.candidates ?? []).map((id) => (id ? zone(id) : 'no zone')))}.`}
      </Status>
      {ladder.remarks.map((remark) => (
        <p key={remark} className="text-ochre">
          {remarkSentence(
            remark,
            place.country ?? '',
            geography?.forms[place.country ?? ''],
            landing.country,
          )}
        </p>
      ))}
      <ol className="mt-2">
        {ladder.rungs.map((rung, index) => (
          <li
            key={index}
            className={`grid grid-cols-[12rem_1fr_auto] gap-3 border-t border-hair px-2 py-1.5 ${rung.outcome === 'won' ? 'border-l-[5px] border-l-ink bg-white font-semibold' : 'border-l-[5px] border-l-transparent'}`}
          >
            <span>{zone(rung.zone)}</span>
            <span>by {by(rung)}</span>
            <span className="text-soft">{lost(rung)}</span>
          </li>
        ))}
        {ladder.misses.map((miss, index) => (
          <li
            key={`miss-${index}`}
            className="grid grid-cols-[12rem_1fr] gap-3 border-t border-l-[5px] border-t-hair border-l-transparent px-2 py-1.5 text-soft"
          >
            <span>{zone(miss.zone)}</span>
            <span>{missed(miss)}</span>
          </li>
        ))}
      </ol>
    </section>
  )
}

function AddressList() {
  const { setup } = useWorkshop()
  const list = useRows<Schemas['Landings'], null>({
    initial: null,
    read: ({ text }, _, signal) => answerOf(api.POST('/api/landings', { body: { csv: text }, signal })),
  })
  const found = list.plan
  const few = (rows: { line: number; address: string }[]) =>
    shortList(
      rows.map(({ line, address }) => `${address} (line ${line})`),
      12,
    )
  return (
    <Fold title="Many addresses at once, as CSV">
      <p className="text-soft">Columns: country, postcode and, optionally, region.</p>
      <div className="my-1 flex max-w-2xl flex-col gap-2">
        <ImportSource of={list} many="addresses" rows={4} placeholder={'country,postcode\nGB,TR29 4ZZ'} />
        <ImportProgress of={list} />
      </div>
      {found && (
        <div className="mt-2 max-w-2xl">
          <Status className="font-semibold">{counted(found.total, 'address', 'addresses')}</Status>
          <ul>
            {setup.zones
              .filter(({ id }) => found.zones[id])
              .map(({ id, name }) => (
                <li key={id} className="flex justify-between border-t border-hair py-0.5">
                  <span>{name}</span>
                  <span>{found.zones[id]}</span>
                </li>
              ))}
          </ul>
          {found.nowhere.length > 0 && (
            <p className="text-brick">
              {counted(found.nowhere.length, 'address is', 'addresses are')} in no zone: {few(found.nowhere)}
            </p>
          )}
          {found.undetermined.length > 0 && (
            <p className="text-ochre">
              Not enough address for {found.undetermined.length}: {few(found.undetermined)}
            </p>
          )}
          <ImportFaults faults={found.faults} />
        </div>
      )}
    </Fold>
  )
}

function Labelled({ label, children }: { label: string; children: ReactNode }) {
  return (
    <label className="flex flex-col gap-1">
      <span className="font-cond text-soft">{label}</span>
      {children}
    </label>
  )
}
