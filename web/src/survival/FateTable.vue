<script setup lang="ts">
import { computed } from 'vue'
import type { FateLine } from '@/api/types'
import { useAsAt } from '@/frame/useAsAt'
import TakeAway from '@/frame/TakeAway.vue'
import { useMay } from '@/people/useMay'
import { duration, relative } from '@/wording/format'

/** What becomes of each workload, the worst first. */
const props = defineProps<{ lines: FateLine[] }>()
const emit = defineEmits<{ rehearse: [line: FateLine] }>()

const SHOWN = 200
const { query } = useAsAt()
const { whyNotWork } = useMay()

const FATES: Record<FateLine['fate'], { glyph: string; word: string }> = {
  lost: { glyph: '✕', word: 'Lost' },
  late: { glyph: '◔', word: 'Late' },
  'not-known': { glyph: '?', word: 'Not known' },
  survives: { glyph: '✓', word: 'Survives' },
  'had-nothing': { glyph: '–', word: 'Had nothing' },
}
const orNothing = (ms?: number) => (ms === undefined ? '' : duration(ms))
const table = computed(() =>
  props.lines.map((l) => ({
    fate: FATES[l.fate].word,
    workload: l.name,
    tier: l.tier,
    data_of: orNothing(l.exposureMs),
    reaches_back: orNothing(l.reachMs),
    back_after: orNothing(l.backMs),
    shown: l.rung ?? '',
    rehearsed: l.rehearsedAt ?? '',
    why: l.sentence,
  })),
)
</script>

<template>
  <div class="row-between">
    <h2>Workloads</h2>
    <TakeAway :rows="() => table" name="survival" />
  </div>
  <div class="wide">
    <table class="plain">
      <thead>
        <tr>
          <th>Fate</th>
          <th>Workload</th>
          <th class="n">Tier</th>
          <th class="n">Data of</th>
          <th class="n" title="How far back the points go that are left">Reaches</th>
          <th class="n">Back after</th>
          <th class="after">Shown from what is left</th>
          <th>Rehearsed so</th>
          <th>Why</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="l in lines.slice(0, SHOWN)" :key="l.workload">
          <td class="nowrap fate" :class="l.fate">
            <span aria-hidden="true">{{ FATES[l.fate].glyph }}</span> {{ FATES[l.fate].word }}
          </td>
          <td>
            <router-link :to="{ name: 'board', query: { w: l.workload, ...query } }">{{
              l.name
            }}</router-link>
          </td>
          <td class="n mono">{{ l.tier ?? '?' }}</td>
          <td class="n mono nowrap" :title="`RPO ${duration(l.rpoMs)}`">
            {{ l.exposureMs === undefined ? '–' : `${duration(l.exposureMs)} ago` }}
          </td>
          <td class="n mono nowrap">{{ orNothing(l.reachMs) || '–' }}</td>
          <td class="n mono nowrap" :title="`RTO ${duration(l.rtoMs)}`">
            {{ orNothing(l.backMs) || '–' }}
          </td>
          <td class="after" :title="`${l.demanded} demanded`">{{ l.rung ?? 'not shown' }}</td>
          <td class="nowrap small">
            <template v-if="l.rehearsedAt">{{ relative(l.rehearsedAt) }}</template>
            <button
              v-else-if="l.fate === 'survives' || l.fate === 'late'"
              type="button"
              class="link"
              :disabled="!!whyNotWork"
              :title="whyNotWork"
              :aria-label="`Rehearse ${l.name} from what is left`"
              @click="emit('rehearse', l)"
            >
              rehearse
            </button>
            <span v-else class="quiet">–</span>
          </td>
          <td class="small quiet">{{ l.sentence }}</td>
        </tr>
      </tbody>
    </table>
  </div>
  <p v-if="lines.length > SHOWN" class="small quiet">
    The {{ SHOWN }} worst of {{ lines.length }}; CSV and JSON have all.
  </p>
</template>

<style scoped>
.fate {
  font-weight: 500;
}
.fate.lost {
  color: var(--disproven);
}
.fate.late {
  color: var(--lapsed);
}
.fate.survives {
  color: var(--proven);
}
</style>
