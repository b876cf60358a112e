import { useEffect } from 'react'
import type { Bench } from '../api/client'
import { BesideCart, useBeside } from './cart'
import { BenchResultProvider, useAllReckonings, useBenchResult } from './result'

/** Tells what the second cart gets and why, where there is one, to what shows it beside the bench cart's. */
export function SecondBench({ report }: { report: (bench: Bench | undefined) => void }) {
  const { beside } = useBeside()
  if (!beside) return <Report bench={undefined} report={report} />
  return (
    <BesideCart>
      <BenchResultProvider>
        <Asked report={report} />
      </BenchResultProvider>
    </BesideCart>
  )
}

function Asked({ report }: { report: (bench: Bench | undefined) => void }) {
  useAllReckonings()
  return <Report bench={useBenchResult().bench} report={report} />
}

function Report({ bench, report }: { bench: Bench | undefined; report: (bench: Bench | undefined) => void }) {
  useEffect(() => report(bench), [bench, report])
  return null
}
