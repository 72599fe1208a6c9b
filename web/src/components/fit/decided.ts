import type { CauseOffer, Decision, ObservationView, Suggestion } from '@/api/types'

/** The observation a cause is already answered for by an alteration on a side; `but` is left out. */
export const decidedFor = (
  observations: readonly ObservationView[],
  of: Pick<Suggestion, 'cause' | 'side'>,
  alteration: string,
  but?: ObservationView,
): ObservationView | undefined =>
  observations.find(
    ({ id, decision }) =>
      id !== but?.id &&
      decision?.what === 'alter' &&
      decision.cause === of.cause &&
      decision.alteration === alteration &&
      (decision.side ?? null) === (of.side ?? null),
  )

/** What taking a cause's alteration decides. */
export const taking = (cause: Suggestion, offer: CauseOffer, overruled = ''): Decision => ({
  what: 'alter',
  alteration: offer.alteration,
  amounts: offer.amounts,
  side: cause.side,
  cause: cause.cause,
  overruled,
})

const SURE: Record<Suggestion['sure'], string> = {
  sure: 'sure',
  likely: 'likely',
  could_be: 'could be',
  cannot_tell: 'cannot tell yet',
}
/** How sure a cause is said, in words. */
export const howSure = ({ sure, alongside }: Suggestion): string =>
  alongside ? `${SURE[sure]}, beside the first` : SURE[sure]
