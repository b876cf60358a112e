import { errorOf } from '../api/shapes'
import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { api, answerOf, type Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { counted } from '../ui/locale'
import { Button } from '../ui/button'

type Step = Schemas['Surveyed']

/** Asks carriers about single goods, a few at a time, so that findings about live rates have something to look at. */
export function Survey() {
  const { setup } = useWorkshop()
  const queries = useQueryClient()
  const [step, setStep] = useState<Step | null>(null)
  const [trouble, setTrouble] = useState('')
  const running = useRef(false)
  const [busy, setBusy] = useState(false)
  useEffect(
    () => () => {
      running.current = false
    },
    [],
  )
  const run = async () => {
    running.current = true
    setBusy(true)
    setTrouble('')
    let failed = 0
    let asked = 0
    try {
      while (running.current) {
        const next = await answerOf(api.POST('/api/carriers/survey', { body: { from: asked } }))
        failed += next.failed
        asked = next.asked
        setStep({ ...next, failed })
        if (next.asked >= next.of) break
      }
      await queries.invalidateQueries({ queryKey: ['findings'] })
    } catch (error) {
      setTrouble(errorOf(error).message)
    }
    running.current = false
    setBusy(false)
  }
  if (!setup.rates.some(({ live }) => live)) return null
  return (
    <section aria-label="What carriers take" className="mt-4 border-t border-hair pt-3">
      <h2 className="text-lg">What carriers take</h2>
      <p className="mb-2 text-soft">
        Whether an own price is below what a carrier takes, which goods every service refuses, and which
        service never wins, is known once carriers have been asked: by carts on the bench, or about each
        product alone.
      </p>
      <div className="flex items-center gap-3">
        {busy ? (
          <Button onClick={() => (running.current = false)}>Stop asking</Button>
        ) : (
          <Button onClick={() => void run()}>Ask about each product</Button>
        )}
        <span role="status">{trouble || (step && progress(step))}</span>
      </div>
    </section>
  )
}

function progress({ asked, of, failed }: Step): string {
  if (of === 0) return 'There is nothing to ask: no live rate has a carrier, an origin and goods.'
  const bad = failed ? `, ${failed} of them without an answer that can be used` : ''
  return `Asked ${asked === of ? `all ${counted(of, 'question')}` : `${asked} of ${of}`}${bad}.`
}
