<script setup lang="ts">
import { computed, ref } from 'vue'
import { scaleOf } from '@/order/tideScale'
import { count, duration } from '@/wording/format'
import { totalOf, type TideBar } from './tideBars'

/** The tide table of a rehearsal: what was planned as a line, what was measured as a bar, the RTO as high water. */
const props = defineProps<{ bars: TideBar[]; rtoMs: number }>()

/** Where what was measured is far shorter than what was planned, it is drawn by itself when asked for. */
const CLOSE = 0.2
const measured = computed(() => Math.max(0, ...props.bars.map((b) => b.measured?.end ?? 0)))
const mayClose = computed(() => measured.value > 0 && measured.value < CLOSE * totalOf(props.bars))
const closer = ref(false)
const close = computed(() => closer.value && mayClose.value)
const scale = computed(() =>
  close.value ? scaleOf(measured.value, 0) : scaleOf(totalOf(props.bars), props.rtoMs),
)
/** The first is lowest. */
const rising = computed(() => [...props.bars].reverse())
const at = (ms: number) => `${((100 * ms) / scale.value.end).toFixed(2)}%`
const endOf = (b: TideBar) =>
  Math.max(close.value ? 0 : (b.planned?.end ?? 0), b.measured?.end ?? 0)
/** How far a bar may reach for its note to stand behind it: a short one has room nearly to the edge. */
const room = (note: string) => (note.length <= 4 ? 0.94 : 0.6)
const beside = (b: TideBar) =>
  endOf(b) > room(b.note) * scale.value.end
    ? {
        right: `calc(100% - ${at(Math.min(b.planned?.begin ?? Infinity, b.measured?.begin ?? Infinity))})`,
        paddingRight: '6px',
      }
    : { left: at(endOf(b)) }

function said(b: TideBar): string {
  const planned = b.planned
    ? `planned to be up after ${duration(b.planned.end)}`
    : 'it can not be brought back'
  const measured = b.measured
    ? `; began after ${duration(b.measured.begin)}, ${b.measured.open ? 'going on for' : 'took'} ${duration(b.measured.end - b.measured.begin)}`
    : ''
  return `${b.name}: ${b.note}; ${planned}${measured}${b.critical ? '; it sets the time' : ''}`
}
</script>

<template>
  <div class="tide">
    <ol
      reversed
      class="bars"
      :aria-label="`${count(bars.length, 'member', 'members')}, the last first`"
    >
      <li v-for="b in rising" :key="b.resource" tabindex="0" :title="said(b)" :aria-label="said(b)">
        <span class="name" :class="{ sets: b.critical }">{{ b.name }}</span>
        <span class="track">
          <span
            v-if="b.planned && !close"
            class="planned"
            :style="{ left: at(b.planned.begin), width: at(b.planned.end - b.planned.begin) }"
          />
          <span
            v-if="b.measured"
            class="bar"
            :class="[b.tone, { sets: b.critical, going: b.measured.open }]"
            :style="{ left: at(b.measured.begin), width: at(b.measured.end - b.measured.begin) }"
          />
          <span class="note" :class="b.tone" :style="beside(b)">{{ b.note }}</span>
        </span>
      </li>
    </ol>
    <div class="over" aria-hidden="true">
      <span v-if="scale.markShown" class="mark" :style="{ left: at(rtoMs) }" />
    </div>
  </div>
  <div class="axis small quiet" aria-hidden="true">
    <span v-for="t in scale.ticks" :key="t" :style="{ left: at(t) }">{{
      t ? duration(t) : '0'
    }}</span>
  </div>
  <p v-if="mayClose" class="small">
    <button type="button" class="link" :aria-pressed="close" @click="closer = !closer">
      {{ close ? 'Planned beside measured' : 'Measured alone, closer' }}
    </button>
  </p>
  <p class="small quiet key">
    <span class="swatch line" /> planned · <span class="swatch" /> measured ·
    <span class="swatch sets" /> sets the time ·
    <template v-if="scale.markShown"
      ><span class="swatch high" /> high water: RTO of {{ duration(rtoMs) }}</template
    ><template v-else
      >high water, the RTO of {{ duration(rtoMs) }}, lies beyond the right edge</template
    >
  </p>
</template>

<style scoped src="../order/tideFrame.css"></style>

<style scoped>
.bars li {
  display: flex;
  align-items: center;
  min-height: 26px;
}
.track {
  position: relative;
  flex: 1;
  height: 18px;
}
.planned {
  position: absolute;
  top: 15px;
  border-top: 2px solid var(--quiet);
  min-width: 3px;
}
.bar {
  position: absolute;
  top: 2px;
  height: 11px;
  min-width: 2px;
  border: 1px solid var(--accent);
}
.bar.going {
  border-right-style: dashed;
}
.bar.bad {
  border-color: var(--disproven);
}
.bar.bad.sets {
  background: var(--disproven);
}
.note {
  position: absolute;
  padding-left: 6px;
  font-size: 12px;
  line-height: 15px;
  white-space: nowrap;
  color: var(--quiet);
}
.note.bad {
  color: var(--disproven);
}
.note.up {
  color: var(--proven);
}
.key {
  margin: 2px 0;
}
.swatch {
  display: inline-block;
  width: 16px;
  height: 8px;
  border: 1px solid var(--accent);
}
.swatch.line {
  height: 0;
  border: 0;
  border-top: 2px solid var(--quiet);
  vertical-align: middle;
}
</style>
