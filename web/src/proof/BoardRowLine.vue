<script setup lang="ts">
import { computed } from 'vue'
import type { BoardRow } from '@/api/types'
import { count, duration, time } from '@/wording/format'
import CopyFigures from './CopyFigures.vue'
import LadderStrip from './LadderStrip.vue'
import VerdictMark from './VerdictMark.vue'

const props = defineProps<{ row: BoardRow; index: number; atCursor: boolean; open: boolean }>()
defineEmits<{ open: [] }>()

/** What the figure by proof means, in words. */
const byProof = computed(() => {
  const lost =
    props.row.byProofMs === undefined
      ? 'by proof all would be lost: of a member no drill has shown the content to be right'
      : `by proof ${duration(props.row.byProofMs)} would be lost: no newer content was shown to be right`
  return props.row.suspect
    ? `${lost}; ${count(props.row.suspect, 'point is', 'points are')} suspect`
    : lost
})
</script>

<template>
  <div
    class="line body"
    role="row"
    :class="{ cursor: atCursor, open }"
    :aria-rowindex="index + 2"
    :aria-selected="atCursor"
    :tabindex="atCursor || (index === 0 && !atCursor) ? 0 : -1"
    @click="$emit('open')"
    @keydown.enter.stop="$emit('open')"
  >
    <span role="gridcell"><VerdictMark :verdict="row.verdict" /></span>
    <span role="gridcell" class="name" :title="row.name">{{ row.name }}</span>
    <span role="gridcell" class="mono">{{ row.tier ?? '?' }}</span>
    <span role="gridcell" class="c-proof"><LadderStrip :ladder="row.ladder" /></span>
    <span
      role="gridcell"
      class="c-loss mono"
      :title="row.byFactsOf && `as told until ${time(row.byFactsOf)}; nobody has told since`"
    >
      <span :class="{ over: row.over }">{{
        row.exposureMs === undefined ? 'all' : duration(row.exposureMs)
      }}</span>
      <span class="quiet"> / {{ row.rpoMs === undefined ? '–' : duration(row.rpoMs) }}</span>
    </span>
    <span role="gridcell" class="c-byproof mono" :title="byProof">
      <span class="quiet">{{
        row.byProofMs === undefined ? 'all' : duration(row.byProofMs)
      }}</span><span v-if="row.suspect" class="over" aria-hidden="true"> ?</span>
      <span class="visually-hidden">{{ byProof }}</span>
    </span>
    <span role="gridcell"><CopyFigures :figures="row.copies" /></span>
    <span role="gridcell" class="why quiet" :title="row.sentence">{{ row.sentence }}</span>
  </div>
</template>

<style scoped>
.body {
  border-bottom: 1px solid var(--rule);
  cursor: pointer;
  border-left: 3px solid transparent;
  padding-left: 17px;
  outline-offset: -2px;
}
.body:hover {
  background: color-mix(in srgb, var(--selected) 45%, transparent);
}
.cursor {
  border-left-color: var(--accent);
}
.open {
  background: var(--selected) !important;
}
.name {
  font-weight: 500;
}
.mono,
.why {
  font-size: 13px;
}
.over {
  color: var(--exposed);
  font-weight: 500;
}
</style>
