<script setup lang="ts">
import { computed } from 'vue'
import type { FindingRow } from '@/api/types'
import { duration, time } from '@/wording/format'

/** One finding in the list. */
const props = defineProps<{
  finding: FindingRow
  index: number
  marked: boolean
  atCursor: boolean
  open: boolean
  asAt: string
}>()
defineEmits<{ mark: []; open: [] }>()

const age = computed(() => {
  if (!props.finding.opened) return 'new'
  const ms = Date.parse(props.asAt) - Date.parse(props.finding.opened)
  return ms < 3_600_000 ? 'new' : duration(ms)
})
</script>

<template>
  <div
    class="finding-line one"
    role="row"
    :class="{ cursor: atCursor, open, marked }"
    :aria-rowindex="index + 2"
    :aria-selected="marked"
    :tabindex="atCursor || index === 0 ? 0 : -1"
    @click="$emit('open')"
    @keydown.enter.self.stop="$emit('open')"
    @keydown.space.self.prevent="$emit('mark')"
  >
    <span role="gridcell"
      ><input
        type="checkbox"
        :checked="marked"
        :aria-label="`Mark ${finding.title} of ${finding.name}`"
        @click.stop
        @change="$emit('mark')"
    /></span>
    <span role="gridcell" class="two">
      <b>{{ finding.name }}</b>
      <span class="small quiet">{{ finding.workloadName ?? finding.group.toLowerCase() }}</span>
    </span>
    <span role="gridcell" class="mono">{{ finding.tier ?? '–' }}</span>
    <span role="gridcell" class="two">
      <span class="what"
        ><b :class="{ wrong: finding.unprotected }">{{
          finding.unprotected ? 'No cover at all' : finding.title
        }}</b>
        <span v-if="finding.exception" class="tag">accepted</span>
        <span v-else-if="finding.look" class="tag">looked at</span>
        <span
          v-if="finding.measured"
          class="figures mono small quiet"
          :title="`${finding.measured} measured${finding.demanded ? `, ${finding.demanded} demanded` : ''}`"
          >{{ finding.measured
          }}<template v-if="finding.demanded"> / {{ finding.demanded }}</template></span
        ></span
      >
      <span class="small sentence" :title="finding.sentence">{{ finding.sentence }}</span>
    </span>
    <span
      role="gridcell"
      class="n mono small"
      :title="finding.opened ? `open since ${time(finding.opened)}` : 'found by this evaluation'"
      >{{ age }}</span
    >
  </div>
</template>

<style scoped>
.one {
  height: 50px;
  border-bottom: 1px solid var(--rule);
  cursor: pointer;
  outline-offset: -2px;
}
.one > * {
  min-width: 0;
}
.one.cursor {
  box-shadow: inset 3px 0 0 var(--accent);
}
.one.open,
.one.marked {
  background: var(--selected);
}
.two {
  display: grid;
}
.two > * {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.what {
  display: flex;
  gap: 8px;
  align-items: baseline;
}
.what > * {
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.what > .tag {
  flex: none;
}
.tag {
  font-size: 12px;
  border: 1px dotted var(--quiet);
  padding: 0 5px;
  color: var(--quiet);
}
.wrong {
  color: var(--disproven);
}
</style>
