<script setup lang="ts">
import { computed, ref } from 'vue'
import type { CriterionOutcome, FactRef, Member } from '@/api/types'
import { words } from '@/wording/format'
import FactSheet from './FactSheet.vue'

/** Criteria outcomes with their arithmetic: what is not met first, the rest folded but there. */
const props = defineProps<{ member: Member }>()

const ORDER = ['not-met', 'not-enough-data', 'excepted', 'met', 'not-applicable']
const GLYPH: Record<string, string> = {
  met: '✓',
  'not-met': '✕',
  'not-enough-data': '?',
  excepted: '◌',
  'not-applicable': '–',
}

const sorted = computed(() =>
  [...props.member.outcomes].sort((a, b) => ORDER.indexOf(a.state) - ORDER.indexOf(b.state)),
)
const summary = computed(() =>
  ORDER.map((s) => [s, props.member.outcomes.filter((o) => o.state === s).length] as const)
    .filter(([, n]) => n > 0)
    .map(([s, n]) => `${n} ${words(s)}`)
    .join(' · '),
)
const fact = ref<FactRef>()

function figures(o: CriterionOutcome): string {
  return o.measured === undefined ? '' : `${o.measured} / ${o.demanded ?? '–'}`
}
</script>

<template>
  <div class="row-between">
    <h2>Criteria</h2>
    <span class="small quiet">{{ summary }}</span>
  </div>
  <details v-for="o in sorted" :key="o.criterion" :open="o.state === 'not-met'">
    <summary>
      <span class="glyph" :class="o.state" aria-hidden="true">{{ GLYPH[o.state] }}</span>
      <span class="title"
        >{{ o.title }}<span class="visually-hidden">: {{ words(o.state) }}</span></span
      >
      <span class="mono small">{{ figures(o) }}</span>
    </summary>
    <div class="inside small">
      <p>{{ o.sentence }}</p>
      <p class="why mono">{{ o.why }}</p>
      <p class="quiet">
        {{ o.demand }} {{ o.references.join(', ') }}.
        <template v-if="o.exception">Accepted by exception {{ o.exception }}.</template>
      </p>
      <p v-if="o.facts.length" class="facts">
        rests on
        <template v-for="f in o.facts" :key="f.kind + f.key">
          <router-link
            v-if="f.kind === 'drills'"
            class="mono"
            :to="{ name: 'drills', query: { tab: 'done', run: f.key } }"
            >drill {{ f.key.slice(0, 8) }}</router-link
          >
          <router-link v-else-if="f.kind === 'feeds'" class="mono" :to="{ name: 'feeds' }"
            >feed {{ f.key }}</router-link
          >
          <button v-else class="link mono" @click="fact = f">{{ f.key }}</button>
        </template>
      </p>
    </div>
  </details>
  <FactSheet v-if="fact" :fact="fact" @close="fact = undefined" />
</template>

<style scoped>
details {
  border-bottom: 1px solid var(--rule);
}
details:last-of-type {
  border-bottom: 0;
}
summary {
  display: flex;
  gap: 8px;
  align-items: baseline;
  padding: 4px 0;
  cursor: pointer;
  list-style: none;
}
summary::-webkit-details-marker {
  display: none;
}
.title {
  flex: 1;
}
.glyph {
  width: 16px;
  text-align: center;
  font-weight: 600;
}
.met {
  color: var(--proven);
}
.not-met {
  color: var(--disproven);
}
.not-enough-data,
.excepted {
  color: var(--lapsed);
}
.inside {
  padding: 0 0 7px 24px;
  overflow-wrap: anywhere;
}
.inside p {
  margin: 1px 0;
}
.why {
  font-size: 12px;
  color: var(--quiet);
}
.facts {
  display: flex;
  flex-wrap: wrap;
  gap: 0 10px;
}
</style>
