<script setup lang="ts">
import VerdictMark from '@/proof/VerdictMark.vue'
import { count, words } from '@/wording/format'
import type { StandardEditor } from './useStandard'

/** What a change would do to the outcomes of now, before anything is saved. */
const props = defineProps<{ standard: StandardEditor }>()
const { trial, trying, changed, isInForce } = props.standard
</script>

<template>
  <h2>If this held now</h2>
  <p v-if="trying" class="small quiet" role="status">Trying …</p>
  <p v-else-if="!trial" class="small quiet">
    {{
      isInForce && !changed
        ? 'This is in force. Change a value, and what would turn is shown here before anything is saved.'
        : 'Nothing tried yet.'
    }}
  </p>
  <template v-if="trial">
    <p class="small" role="status">
      <b>{{ count(trial.differences.turned, 'outcome', 'outcomes') }}</b> would turn,
      <b>{{ count(trial.differences.moves.length, 'verdict', 'verdicts') }}</b> would move.
    </p>
    <ul class="moves">
      <li v-for="m in trial.differences.moves" :key="m.workload">
        <b>{{ m.name }}</b>
        <VerdictMark v-if="m.from" :verdict="m.from" /> →
        <VerdictMark v-if="m.to" :verdict="m.to" />
        <span class="small quiet">{{ m.because }}</span>
      </li>
    </ul>
    <table v-if="trial.counts.length" class="plain">
      <thead>
        <tr>
          <th>Not met</th>
          <th class="n">now</th>
          <th class="n">then</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="c in trial.counts" :key="c.criterion">
          <td>{{ c.title }}</td>
          <td class="n">{{ c.notMetBefore }}</td>
          <td class="n">{{ c.notMetAfter }}</td>
        </tr>
      </tbody>
    </table>
    <details v-if="trial.differences.turns.length">
      <summary class="small link">which outcomes</summary>
      <p v-for="t in trial.differences.turns" :key="t.resource + t.criterion" class="small">
        <b>{{ t.name }}</b> {{ t.title }}: {{ words(t.from) }} → {{ words(t.to) }}
      </p>
    </details>
  </template>
</template>

<style scoped>
p {
  margin: 4px 0;
}
.moves {
  list-style: none;
  margin: 6px 0;
}
.moves li b {
  margin-right: 7px;
}
.moves li {
  padding: 4px 0;
  border-top: 1px solid var(--rule);
}
.moves .small {
  display: block;
}
summary {
  cursor: pointer;
  margin-top: 8px;
}
</style>
