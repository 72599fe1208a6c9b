import { inject, provide } from 'vue'
import type { InjectionKey } from 'vue'
import { get } from '@/api/client'
import { useResource } from './useResource'
import type { UseResourceReturn } from './useResource'
import type { OrderView } from '@/api/types'

const orderKey: InjectionKey<UseResourceReturn<OrderView>> = Symbol('order')

/** The garment whose pages these are; reads it and hands it to the pages below. */
export function provideOrder(id: () => number): UseResourceReturn<OrderView> {
  const order = useResource(() => get('/api/orders/{id}', { params: { path: { id: id() } } }))
  provide(orderKey, order)
  return order
}

/** The garment of the pages above. */
export function useOrder(): UseResourceReturn<OrderView> {
  const order = inject(orderKey)
  if (!order) throw new Error('useOrder belongs below a garment page')
  return order
}

/** The page of the stage a garment stands at; what is handed over is looked at where it was cut. */
export const pageOf = ({ id, standing: { stage } }: OrderView) => ({
  name: stage === 'done' ? 'cut' : stage,
  params: { id },
})
