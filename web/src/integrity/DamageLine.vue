<script setup lang="ts">
import { computed } from 'vue'
import Moment from '@/frame/Moment.vue'
import type { Damage } from '@/api/types'
import { count, duration, relative } from '@/wording/format'

/** A copy or point that can't be relied on: what hangs from it, what is lost, what is good near it. */
const props = defineProps<{ damage: Damage; mayDrill: boolean }>()
const emit = defineEmits<{ drill: [start: { resource: string; point: string }] }>()

const reach = computed(() => {
  const d = props.damage
  return d.lostFrom && d.lostTo ? Date.parse(d.lostTo) - Date.parse(d.lostFrom) : 0
})
</script>

<template>
  <details class="damage">
    <summary>
      <span class="glyph" aria-hidden="true">✕</span>
      <span class="main">
        <span>
          <b class="mono">{{ damage.resourceName }}</b> <span class="mono">{{ damage.point }}</span>
          {{ damage.storeName ? `on ${damage.storeName}` : 'wherever it lies' }}
        </span>
        <span class="small quiet sentence">{{ damage.sentence }}</span>
      </span>
      <span class="n small">
        <b class="mono">{{ damage.hanging }}</b>&nbsp;<span class="quiet">{{
          damage.hanging === 1 ? 'point' : 'points'
        }}</span>
      </span>
      <span class="small quiet nowrap" :title="damage.found">{{ relative(damage.found) }}</span>
    </summary>
    <div class="inside small">
      <p>
        <template v-if="damage.otherGood.length"
          >The same point is good on {{ damage.otherGood.join(', ') }}: nothing is lost
          yet.</template
        >
        <template v-else-if="damage.lostFrom && damage.lostTo"
          >Nothing else holds it: {{ count(damage.hanging, 'point', 'points') }} can’t be restored,
          data of <Moment :at="damage.lostFrom" /><template v-if="reach > 0">
            to <Moment :at="damage.lostTo" />, {{ duration(reach) }} of reach</template
          >.</template
        >
      </p>
      <p v-if="damage.hanging > 1">
        From it hang
        <span v-for="(p, i) in damage.hangingPoints.slice(1)" :key="p" class="mono"
          >{{ i ? ', ' : '' }}{{ p }}</span
        ><template v-if="damage.hanging > damage.hangingPoints.length">
          and {{ damage.hanging - damage.hangingPoints.length }} more</template
        >.
      </p>
      <p>
        Next older good point:
        <template v-if="damage.olderGood"
          ><span class="mono">{{ damage.olderGood.point }}</span
          >, of <Moment :at="damage.olderGood.dataTime" /></template
        ><template v-else>none</template>. Next newer good point:
        <template v-if="damage.newerGood"
          ><span class="mono">{{ damage.newerGood.point }}</span
          >, of <Moment :at="damage.newerGood.dataTime" /></template
        ><template v-else>none</template>.
      </p>
      <p class="row">
        <router-link class="link" :to="{ name: 'board', query: { w: damage.workload } }"
          >Open its case file</router-link
        >
        <button
          v-if="mayDrill"
          class="link"
          @click="emit('drill', { resource: damage.resource, point: damage.point })"
        >
          Drill this point again
        </button>
      </p>
    </div>
  </details>
</template>

<style scoped>
.damage {
  border-bottom: 1px solid var(--rule);
}
summary {
  display: flex;
  gap: 10px;
  padding: 6px 0;
  cursor: pointer;
  list-style: none;
  align-items: baseline;
}
summary::-webkit-details-marker {
  display: none;
}
.glyph {
  color: var(--disproven);
  font-weight: 600;
  width: 16px;
  text-align: center;
  flex: none;
}
.main {
  flex: 1;
  min-width: 0;
  display: grid;
}
.sentence {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
details[open] .sentence {
  white-space: normal;
  overflow-wrap: anywhere;
}
.n {
  white-space: nowrap;
}
.inside {
  padding: 0 0 10px 26px;
}
.inside p {
  margin: 3px 0;
  overflow-wrap: anywhere;
}
.row {
  display: flex;
  gap: 14px;
}
</style>
