import type { ObservationView, WornSide } from '@/api/types'

/** The observation a cause is already decided for on a side; `but` is left out. */
export const decidedFor = (
  observations: readonly ObservationView[],
  of: { cause: string; side?: WornSide | null },
  but?: ObservationView,
): ObservationView | undefined =>
  observations.find(
    ({ id, decision }) =>
      id !== but?.id &&
      decision?.what === 'alter' &&
      decision.cause === of.cause &&
      (decision.side ?? null) === (of.side ?? null),
  )
