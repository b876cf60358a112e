import { errorOf, parsed } from '../api/shapes'
import { useState } from 'react'
import { ApiProblem, api, answerOf, type Cart } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { FieldError } from '../ui/field-error'
import { benchOf, documentOf, useBenchCart } from '../cart/cart'

import { copy } from '../ui/copy'
import { Button } from '../ui/button'
import { TextArea } from '../ui/input'

/** The bench cart as JSON, to be copied and replaced. */
export function CartJson({ close }: { close: () => void }) {
  const { setup } = useWorkshop()
  const { cart, replace } = useBenchCart()
  const now = JSON.stringify(documentOf(cart), null, 2)
  const [text, setText] = useState(now)
  const [errors, setErrors] = useState<string[]>([])
  const take = async () => {
    let document: Cart
    try {
      document = parsed<Cart>(text)
    } catch (error) {
      return setErrors([`This is not JSON: ${errorOf(error).message}`])
    }
    try {
      // The server reads it like any cart; what it can't read is told at its place, and stays typed here.
      await answerOf(api.POST('/api/quote', { body: document }))
      replace(benchOf(document, setup.store?.country ?? ''))
      close()
    } catch (error) {
      const problem = error instanceof ApiProblem ? error.problem.errors : []
      setErrors(
        problem.length
          ? problem.map(({ pointer, detail }) => `${pointer || '/'}: ${detail}`)
          : [errorOf(error).message],
      )
    }
  }
  return (
    <>
      <h2 className="text-lg">The cart as JSON</h2>
      <TextArea
        className="mt-1 w-full text-xs"
        rows={14}
        aria-label="The cart as JSON"
        aria-invalid={errors.length > 0 || undefined}
        spellCheck={false}
        value={text}
        onChange={(event) => {
          setText(event.target.value)
          setErrors([])
        }}
      />
      {errors.slice(0, 6).map((error) => (
        <FieldError key={error}>{error}</FieldError>
      ))}
      <p className="mt-2 flex gap-2">
        <Button onClick={() => void copy(text, 'the cart')}>Copy it</Button>
        <Button className="border-ink font-semibold" disabled={text === now} onClick={() => void take()}>
          Put this cart on the bench
        </Button>
      </p>
    </>
  )
}
