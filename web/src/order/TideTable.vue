<script setup lang="ts">
import { computed, ref } from 'vue'
import { useEvents } from '@/api/useEvents'
import { useServerData } from '@/api/useServerData'
import type { OrderBar } from '@/api/types'
import { count, duration, relative, words } from '@/wording/format'
import { scaleOf } from './tideScale'

/** In which order a workload comes back: time along, members rising in the order in which they begin. */
const props = defineProps<{ workload: string; when: { asAt?: string; knownAt?: string } }>()

const atOnce = ref<number>()
const { data, problem, refresh } = useServerData('/api/workloads/{key}/order', () => ({
  params: { path: { key: props.workload }, query: { ...props.when, atOnce: atOnce.value } },
}))
useEvents({ facts: () => void refresh() })

const CHOICES = [1, 2, 3, 4, 6, 8, 16, 1000]
const choices = computed(() =>
  [...new Set([...CHOICES, data.value?.atOnce ?? 2])]
    .sort((a, b) => a - b)
    .map((n) => ({ value: n, title: n === 1000 ? 'all that can' : `${n} at once` })),
)
const scale = computed(() => scaleOf(data.value?.totalMs ?? 0, data.value?.rtoMs ?? 0))
/** The first is lowest. */
const rising = computed(() => [...(data.value?.bars ?? [])].reverse())
const at = (ms: number) => `${((100 * ms) / scale.value.end).toFixed(2)}%`

/** What it takes, and whose it is where it is another workload's. */
function note(b: OrderBar): string {
  const takes = b.with
    ? `with ${b.with}`
    : b.estimate
      ? duration((b.endMs ?? 0) - (b.beginMs ?? 0))
      : 'time not known'
  const other = b.workload === props.workload ? '' : ` · ${b.workloadName ?? 'no workload'}`
  return takes + other
}
/** Where there is more room: after the bar, or before it. */
const beside = (b: OrderBar) =>
  (b.endMs ?? 0) > 0.6 * scale.value.end
    ? { right: `calc(100% - ${at(b.beginMs ?? 0)})`, paddingRight: '6px' }
    : { left: at(b.endMs ?? 0) }

function said(b: OrderBar): string {
  if (b.never) return `${b.name} can't come back: ${b.never}`
  const begin = b.beginMs ? `begins after ${duration(b.beginMs)}` : 'begins at once'
  const from = b.with
    ? `comes with the image of ${b.with}`
    : `${b.estimate ?? 'how long it takes is not known'}${b.store ? `, from ${b.store}` : ''}`
  const why = b.room ? ', after waiting for room' : ''
  const point = b.pointAt ? `; point of ${relative(b.pointAt)}` : ''
  const sets = b.critical ? '; it sets the time' : ''
  const needs = b.needs.length ? `; needs ${b.needs.join(', ')}` : ''
  return `${b.name}: ${begin}${why}, up after ${duration(b.endMs ?? 0)}; ${from}${point}${needs}${sets}`
}
</script>

<template>
  <div>
    <div class="row-between">
      <h2>If it had to come back</h2>
      <v-select
        v-if="data"
        :model-value="data.atOnce"
        :items="choices"
        label="Restores"
        class="many"
        hide-details
        @update:model-value="atOnce = $event"
      />
    </div>
    <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    <v-skeleton-loader v-else-if="!data" type="paragraph" color="surface" />
    <template v-else>
      <p>{{ data.sentence[0]?.toUpperCase() }}{{ data.sentence.slice(1) }}.</p>
      <p v-if="data.notKnown.length" class="small quiet">
        Needed, but not known here: {{ data.notKnown.join(', ') }}.
      </p>
      <div class="tide">
        <ol
          reversed
          class="bars"
          :aria-label="`${count(data.bars.length, 'member', 'members')}, the last to begin first`"
        >
          <li
            v-for="b in rising"
            :key="b.resource"
            tabindex="0"
            :title="said(b)"
            :aria-label="said(b)"
          >
            <span class="name" :class="{ sets: b.critical }">{{ b.name }}</span>
            <span class="track">
              <span v-if="b.never" class="never">{{ b.never }}</span>
              <template v-else>
                <span
                  class="bar"
                  :class="{ sets: b.critical, untimed: !b.estimate && !b.with }"
                  :style="{
                    left: at(b.beginMs ?? 0),
                    width: at((b.endMs ?? 0) - (b.beginMs ?? 0)),
                  }"
                />
                <span class="note" :style="beside(b)">{{ note(b) }}</span>
              </template>
            </span>
          </li>
        </ol>
        <div class="over" aria-hidden="true">
          <span v-if="scale.markShown" class="mark" :style="{ left: at(data.rtoMs) }" />
        </div>
      </div>
      <div class="axis small quiet" aria-hidden="true">
        <span v-for="t in scale.ticks" :key="t" :style="{ left: at(t) }">{{
          t ? duration(t) : '0'
        }}</span>
      </div>
      <p class="small quiet key">
        <span class="swatch sets" /> sets the time · <span class="swatch" /> others ·
        <template v-if="scale.markShown"
          ><span class="swatch high" /> high water: RTO of {{ duration(data.rtoMs) }}</template
        ><template v-else
          >high water, the RTO of {{ duration(data.rtoMs) }}, lies beyond the right edge</template
        >
      </p>
      <template v-if="data.speedUps.length">
        <h2 class="first">What to speed up first</h2>
        <ol class="ups small">
          <li v-for="s in data.speedUps.slice(0, 4)" :key="s.sentence">{{ s.sentence }}</li>
        </ol>
      </template>
      <details v-if="data.bars.length" class="small">
        <summary>In words, member by member</summary>
        <ul class="told">
          <li v-for="b in data.bars" :key="b.resource">
            {{ said(b) }}<span class="quiet"> ({{ words(b.kind) }})</span>
          </li>
        </ul>
      </details>
    </template>
  </div>
</template>

<style scoped src="./tideFrame.css"></style>

<style scoped>
.many {
  max-width: 150px;
}
.wrong {
  color: var(--disproven);
}
.bars li {
  display: flex;
  align-items: center;
  min-height: 24px;
}
.track {
  position: relative;
  flex: 1;
  height: 14px;
}
.bar {
  position: absolute;
  top: 2px;
  height: 10px;
  min-width: 2px;
  border: 1px solid var(--accent);
  border-bottom-width: 3px;
}
.bar.untimed {
  border-style: dashed;
}
.note,
.never {
  position: absolute;
  padding-left: 6px;
  font-size: 12px;
  line-height: 14px;
  white-space: nowrap;
  color: var(--quiet);
}
.never {
  color: var(--disproven);
}
.swatch {
  display: inline-block;
  width: 16px;
  height: 8px;
  border: 1px solid var(--accent);
  border-bottom-width: 3px;
}
.first {
  margin-top: 10px;
}
.ups,
.told {
  margin: 4px 0 4px 18px;
}
summary {
  cursor: pointer;
}
</style>
