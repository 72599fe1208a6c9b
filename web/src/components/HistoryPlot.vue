<script setup lang="ts">
/** Measurements over time. A ring marks a reading that was taken differently from the one before. */
import { LineChart } from 'echarts/charts'
import { GridComponent, LegendComponent, TooltipComponent } from 'echarts/components'
import { init, use } from 'echarts/core'
import type { EChartsType } from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'
import { onBeforeUnmount, onMounted, useTemplateRef, watch } from 'vue'
import { useTheme } from '@/composables/useTheme'
import { asDay } from '@/days'

export interface PlotPoint {
  /** ISO date and time. */
  at: string
  /** In the house's unit. */
  value: number
  text: string
  method: string
  methodChanged: boolean
}
export interface PlotLine {
  name: string
  points: PlotPoint[]
}

const props = defineProps<{ lines: PlotLine[]; suffix: string; label: string }>()
const place = useTemplateRef<HTMLDivElement>('place')
let chart: EChartsType | undefined
let watched: ResizeObserver | undefined

use([LineChart, GridComponent, LegendComponent, TooltipComponent, CanvasRenderer])

function draw(): void {
  if (!chart || !place.value) return
  const style = getComputedStyle(place.value)
  const colour = (name: string) => style.getPropertyValue(name).trim()
  const ink = colour('--ink')
  const soft = colour('--ink-soft')
  const text = { color: ink, fontFamily: style.fontFamily, fontSize: 14 }
  chart.setOption(
    {
      animation: false,
      color: [colour('--woad'), colour('--madder'), ink, soft, colour('--chalk-mark')].filter(Boolean),
      grid: { left: 56, right: 24, top: 64, bottom: 36 },
      legend: { top: 0, textStyle: text, icon: 'roundRect' },
      // The page allows no inline styles, so the tip is drawn, not built of elements.
      tooltip: {
        trigger: 'item',
        renderMode: 'richText',
        formatter: (at: { seriesName: string; data: { tip: string } }) => `${at.seriesName}\n${at.data.tip}`,
      },
      xAxis: {
        type: 'time',
        // A day is the smallest thing an axis of sessions tells: never the hours of a single one.
        minInterval: 24 * 3600 * 1000,
        axisLabel: {
          ...text,
          color: soft,
          hideOverlap: true,
          formatter: (at: number) => asDay(new Date(at).toISOString()),
        },
        axisLine: { lineStyle: { color: soft } },
      },
      yAxis: {
        type: 'value',
        scale: true,
        name: props.suffix,
        // Whole units only: the figures themselves are written beside their points.
        minInterval: 1,
        nameTextStyle: text,
        axisLabel: { ...text, color: soft },
        splitLine: { lineStyle: { color: colour('--rule') } },
      },
      series: props.lines.map((line) => ({
        name: line.name,
        type: 'line',
        data: line.points.map((point) => ({
          value: [point.at, point.value],
          tip: `${point.text} ${props.suffix}${point.method ? `\n${point.method}` : ''}`,
          symbol: point.methodChanged ? 'emptyDiamond' : 'circle',
          symbolSize: point.methodChanged ? 16 : 8,
        })),
      })),
    },
    { notMerge: true },
  )
}

onMounted(() => {
  if (!place.value) return
  chart = init(place.value)
  watched = new ResizeObserver(() => chart?.resize())
  watched.observe(place.value)
  draw()
})
// By day or by evening: the canvas does not follow the page's colours by itself.
watch([() => props.lines, useTheme().dark], draw, { flush: 'post' })
onBeforeUnmount(() => {
  watched?.disconnect()
  chart?.dispose()
})
</script>

<template>
  <div ref="place" class="plot" role="img" :aria-label="label" />
</template>

<style scoped>
.plot {
  height: 320px;
  width: 100%;
}
</style>
