import { Trash2 } from 'lucide-react'
import { useWorkshop } from '../edits/workshop'
import { Button } from '../ui/button'
import { Tick } from '../ui/tick'
import { Typed } from '../ui/typed'
import type { Parts } from './parts'

type Group = Parts['choice']['groups'][number]

interface Props {
  groups: Group[]
  change: (groups: Group[]) => void
  put: (groups: Group[]) => void
  commit: () => void
  errorAt: (pointer: string) => string | undefined
}

/** Methods of several carriers that shoppers see as one: the cheapest that is there. */
export function Groups({ groups, change, put, commit, errorAt }: Props) {
  const { setup } = useWorkshop()
  const { methods } = setup
  const others = methods.filter(({ id }) => !groups.some((group) => group.methods.includes(id)))
  const at = (index: number, fields: Partial<Group>) =>
    groups.map((group, place) => (place === index ? { ...group, ...fields } : group))
  return (
    <div className="flex flex-col items-start gap-2">
      {groups.map((group, index) => (
        <div key={index} className="flex flex-wrap items-end gap-x-4 gap-y-1">
          <Typed
            label="One choice, which shoppers read as"
            width="w-52"
            value={group.name}
            error={errorAt(`/storefront/parts/choice/groups/${index}`)}
            change={(name) => change(at(index, { name }))}
            commit={commit}
          />
          {methods
            .filter(({ id }) => group.methods.includes(id) || others.some((one) => one.id === id))
            .map(({ id, name }) => (
              <Tick
                key={id}
                on={group.methods.includes(id)}
                change={(on) =>
                  put(
                    at(index, {
                      methods: on ? [...group.methods, id] : group.methods.filter((one) => one !== id),
                    }),
                  )
                }
              >
                {name}
              </Tick>
            ))}
          <Button
            look="quiet"
            aria-label={`Remove ${group.name}`}
            onClick={() => put(groups.filter((_, place) => place !== index))}
          >
            <Trash2 size={14} aria-hidden />
          </Button>
        </div>
      ))}
      {others.length > 1 && (
        <Button
          onClick={() =>
            put([...groups, { name: others[0]!.name, methods: others.slice(0, 2).map(({ id }) => id) }])
          }
        >
          Make several methods one choice
        </Button>
      )}
    </div>
  )
}
