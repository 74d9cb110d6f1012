<script setup lang="ts">
import { computed, ref } from 'vue'
import Moment from '@/frame/Moment.vue'
import type { FactRef, FindingRow } from '@/api/types'
import { useServerData } from '@/api/useServerData'
import { useAsAt } from '@/frame/useAsAt'
import FactSheet from '@/proof/FactSheet.vue'
import { relative, words } from '@/wording/format'

/** One finding: what was found, the arithmetic, what it rests on, and what happened to it. */
const props = defineProps<{ finding: FindingRow }>()
defineEmits<{ close: [] }>()

const { asAt, when, query } = useAsAt()
const { data: events } = useServerData('/api/finding-events', () => ({
  params: { query: { finding: props.finding.key } },
}))
const { data: file } = useServerData('/api/workloads/{key}', () =>
  props.finding.workload
    ? { params: { path: { key: props.finding.workload }, query: when.value } }
    : undefined,
)
const outcome = computed(() =>
  file.value?.members
    .find((m) => m.key === props.finding.subject)
    ?.outcomes.find((o) => o.criterion === props.finding.code),
)
const fact = ref<FactRef>()
const shownEvents = computed(() =>
  (events.value ?? []).filter((e) => !asAt.value || Date.parse(e.at) <= Date.parse(asAt.value)),
)
const opensAsSheet = (f: FactRef) => !['drills', 'feeds'].includes(f.kind)
</script>

<template>
  <div class="file">
    <section class="part">
      <div class="row-between">
        <h1>{{ finding.unprotected ? 'No cover at all' : finding.title }}</h1>
        <button class="close" aria-label="Close the finding" title="Esc" @click="$emit('close')">
          ×
        </button>
      </div>
      <p class="small quiet">
        {{ finding.name
        }}<template v-if="finding.workloadName"> · {{ finding.workloadName }}</template
        ><template v-if="finding.type === 'resource'">
          · {{ finding.tier ? `tier ${finding.tier}` : 'tier not known' }} ·
          {{ finding.owner ?? 'owner not known' }}</template
        ><template v-if="finding.site"> · {{ finding.site }}</template>
      </p>
      <p class="said">{{ finding.sentence }}.</p>
      <p v-if="outcome" class="small mono quiet">{{ outcome.why }}</p>
      <p v-if="outcome" class="small quiet">
        {{ outcome.demand }} {{ outcome.references.join(', ') }}
      </p>
      <p v-if="finding.exception" class="small">
        Accepted by exception <span class="mono">{{ finding.exception }}</span>. The arithmetic
        stays.
      </p>
      <p v-if="finding.look" class="small">
        Looked at by {{ finding.look.by }} {{ relative(finding.look.at)
        }}<template v-if="finding.look.note">: {{ finding.look.note }}</template>
      </p>
      <p v-if="finding.facts.length" class="small facts">
        rests on
        <template v-for="f in finding.facts" :key="f.kind + f.key">
          <button v-if="opensAsSheet(f)" class="link mono" @click="fact = f">{{ f.key }}</button>
          <router-link v-else-if="f.kind === 'feeds'" :to="{ name: 'feeds' }">{{
            f.key
          }}</router-link>
          <span v-else class="mono">drill {{ f.key.slice(0, 8) }}</span>
        </template>
      </p>
      <p v-if="finding.type === 'resource'" class="small">
        policies: {{ finding.policies.join(', ') || 'none' }}
      </p>
      <p v-if="finding.type === 'store'" class="small">
        <router-link :to="{ name: 'stores', query: { store: finding.subject } }"
          >What lies on {{ finding.name }}</router-link
        >
      </p>
      <p v-if="finding.workload" class="small">
        <router-link :to="{ name: 'board', query: { w: finding.workload, ...query } }"
          >Case file of {{ finding.workloadName ?? finding.name }}</router-link
        >
      </p>
    </section>
    <section class="part">
      <h2>What happened to it</h2>
      <p v-if="!shownEvents.length" class="small quiet">
        Found by the evaluation you see; it is written down within seconds.
      </p>
      <ol class="events">
        <li v-for="(e, i) in shownEvents" :key="i">
          <span class="mono nowrap"><Moment :at="e.at" /></span>
          <b>{{ words(e.event) }}<template v-if="e.excepted">, accepted</template></b>
          <span class="small">{{ e.sentence }}</span>
        </li>
      </ol>
    </section>
    <FactSheet v-if="fact" :fact="fact" @close="fact = undefined" />
  </div>
</template>

<style scoped>
.part {
  padding: 12px 18px 14px;
  border-bottom: 1px solid var(--rule);
}
h1 {
  font-size: 17px;
}
p {
  margin: 4px 0;
  overflow-wrap: anywhere;
}
.said {
  margin: 8px 0;
  font-size: 15px;
}
.close {
  font: 22px/1 var(--sans);
  color: var(--quiet);
  background: none;
  border: 0;
  cursor: pointer;
}
.facts {
  display: flex;
  flex-wrap: wrap;
  gap: 0 10px;
}
.events {
  list-style: none;
  margin: 6px 0 0;
  font-size: 13px;
}
.events li {
  display: grid;
  grid-template-columns: 100px 90px 1fr;
  gap: 8px;
  padding: 3px 0;
  border-top: 1px solid var(--rule);
  overflow-wrap: anywhere;
}
</style>
