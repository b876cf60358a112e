import { createContext, useContext } from 'react'
import type { Zone } from '../api/client'

/** The zone whose rate is being edited: a grid can have a column for each part of it. */
export const PlanZone = createContext<Zone | undefined>(undefined)

export function usePlanZone(): Zone | undefined {
  return useContext(PlanZone)
}
