<script setup lang="ts">
import { computed } from 'vue'
import type { BoardView, Verdict } from '@/api/types'

/** The Board in one sentence; each verdict in it is a filter. */
const props = defineProps<{ board: BoardView; chosen: ReadonlySet<string> }>()
defineEmits<{ toggle: [verdict: Verdict] }>()

const total = computed(() => props.board.workloads.length)
const proven = computed(() => props.board.counts.proven ?? 0)
const others = computed(() =>
  (Object.entries(props.board.counts) as [Verdict, number][]).filter(([v]) => v !== 'proven'),
)
const noTier = computed(() => props.board.workloads.filter((w) => !w.tier).length)
/** Where that is the rule, it is what changes most. */
const mostlyNoTier = computed(() => noTier.value * 2 > total.value)
const lapsing = computed(() => props.board.lapsingWithinWeek)
</script>

<template>
  <p v-if="total" class="lead">
    <button
      class="verdict proven"
      :aria-pressed="chosen.has('proven')"
      @click="$emit('toggle', 'proven')"
    >
      {{ proven }} of {{ total }}
    </button>
    {{ total === 1 ? 'workload is' : 'workloads are' }} proven<template v-if="others.length"
      >: </template
    ><template v-for="([verdict, n], i) in others" :key="verdict"
      ><template v-if="i">, </template
      ><button
        class="verdict"
        :class="verdict"
        :aria-pressed="chosen.has(verdict)"
        @click="$emit('toggle', verdict)"
      >
        {{ n }} {{ verdict }}
      </button></template
    >.
    <template v-if="lapsing">
      {{ lapsing === 1 ? 'One more proof lapses' : `${lapsing} more proofs lapse` }} this week.
    </template>
  </p>
  <p v-if="mostlyNoTier" class="small gaps">
    Nobody said how much {{ noTier === 1 ? 'one' : noTier }} of them matter{{
      noTier === 1 ? 's' : ''
    }}, so what tier 1 asks is demanded.
    <router-link :to="{ path: '/findings', query: { part: 'plan' } }">What helps most</router-link>
  </p>
</template>

<style scoped>
.lead {
  margin: 0 0 10px;
}
.gaps {
  margin: 0 0 10px;
}
.verdict {
  font: inherit;
  font-weight: 600;
  color: inherit;
  background: none;
  border: 0;
  border-bottom: 2px solid currentColor;
  padding: 0;
  cursor: pointer;
  line-height: 1.15;
}
.verdict[aria-pressed='true'] {
  background: var(--selected);
}
.proven {
  border-color: var(--proven);
}
.lapsed {
  border-color: var(--lapsed);
}
.unproven {
  border-color: var(--unproven);
}
.disproven {
  border-color: var(--disproven);
}
.exposed {
  border-color: var(--exposed);
}
.uncovered,
.unknown {
  border-bottom-style: dashed;
}
.excluded {
  border-bottom-style: dotted;
}
</style>
