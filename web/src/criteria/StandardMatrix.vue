<script setup lang="ts">
import { computed } from 'vue'
import type { CriterionForm, ParameterForm } from '@/api/types'
import StandardBar from './StandardBar.vue'
import TrialSheet from './TrialSheet.vue'
import type { StandardEditor } from './useStandard'

/** Criterion by tier, edited in place; what a change would turn stands beside it. */
const props = defineProps<{ standard: StandardEditor }>()
const { all, draft, trial, problem } = props.standard

const parameters = computed(
  () => new Map((all.data.value?.parameters ?? []).map((p) => [p.code, p])),
)
/** Every parameter once, under the first criterion that reads it. */
const groups = computed(() => {
  const seen = new Set<string>()
  const result: {
    group: string
    criteria: { criterion: CriterionForm; own: ParameterForm[] }[]
  }[] = []
  for (const criterion of all.data.value?.criteria ?? []) {
    let group = result.find((g) => g.group === criterion.group)
    if (!group) result.push((group = { group: criterion.group, criteria: [] }))
    const own = criterion.parameters
      .filter((p) => !seen.has(p))
      .map((p) => parameters.value.get(p))
      .filter((p) => p !== undefined)
    own.forEach((p) => seen.add(p.code))
    group.criteria.push({ criterion, own })
  }
  return result
})
const counts = computed(() => new Map((trial.value?.counts ?? []).map((c) => [c.criterion, c])))

function set(tier: number, code: string, text: string) {
  const row = draft.value?.tiers[tier]
  if (!row) return
  if (text) row[code] = text
  else delete row[code]
}

const regions = computed({
  get: () =>
    Object.entries(draft.value?.regions ?? {})
      .map(([c, r]) => `${c}: ${r.join(', ')}`)
      .join('\n'),
  set: (text: string) => {
    if (!draft.value) return
    draft.value.regions = Object.fromEntries(
      text
        .split('\n')
        .map((line) => line.split(':'))
        .filter((parts) => parts.length === 2 && parts[0]?.trim())
        .map(([c, r]) => [
          (c ?? '').trim(),
          (r ?? '')
            .split(',')
            .map((x) => x.trim())
            .filter(Boolean),
        ]),
    )
  },
})
</script>

<template>
  <p v-if="all.problem.value" class="wrong" role="alert">{{ all.problem.value }}</p>
  <v-skeleton-loader v-if="!draft && !all.problem.value" type="heading, table" color="background" />
  <template v-if="draft && all.data.value">
    <StandardBar :standard="standard" />
    <div class="split">
      <div class="matrix">
        <table class="plain">
          <thead>
            <tr>
              <th>Criterion</th>
              <th></th>
              <th v-for="t in 4" :key="t" class="value">Tier {{ t }}</th>
            </tr>
          </thead>
          <tbody v-for="g in groups" :key="g.group">
            <tr>
              <th colspan="6" class="group">{{ g.group }}</th>
            </tr>
            <template v-for="c in g.criteria" :key="c.criterion.code">
              <tr v-if="!c.own.length">
                <td :title="`${c.criterion.demand} ${c.criterion.references.join(', ')}`">
                  {{ c.criterion.title }}
                </td>
                <td class="small quiet" colspan="5">
                  {{ c.criterion.parameters.length ? 'as above' : 'of every tier' }}
                  <b v-if="counts.get(c.criterion.code)" class="mono wrong"
                    >{{ counts.get(c.criterion.code)?.notMetBefore }} →
                    {{ counts.get(c.criterion.code)?.notMetAfter }} not met</b
                  >
                </td>
              </tr>
              <tr v-for="(p, i) in c.own" :key="p.code">
                <td :title="`${c.criterion.demand} ${c.criterion.references.join(', ')}`">
                  <template v-if="i === 0">
                    {{ c.criterion.title }}
                    <b v-if="counts.get(c.criterion.code)" class="mono small wrong"
                      >{{ counts.get(c.criterion.code)?.notMetBefore }} →
                      {{ counts.get(c.criterion.code)?.notMetAfter }} not met</b
                    >
                  </template>
                </td>
                <td class="small quiet">{{ p.title }}</td>
                <td v-for="t in 4" :key="t" class="value">
                  <select
                    v-if="p.choices.length"
                    :value="draft.tiers[t - 1]?.[p.code] ?? ''"
                    :aria-label="`${p.title}, tier ${t}`"
                    @change="set(t - 1, p.code, ($event.target as HTMLSelectElement).value)"
                  >
                    <option v-if="!p.needed" value="">–</option>
                    <option v-for="x in p.choices" :key="x" :value="x">{{ x }}</option>
                  </select>
                  <input
                    v-else
                    :value="draft.tiers[t - 1]?.[p.code] ?? ''"
                    :placeholder="p.needed ? '' : '–'"
                    :aria-label="`${p.title}, tier ${t}`"
                    class="mono"
                    @change="set(t - 1, p.code, ($event.target as HTMLInputElement).value.trim())"
                  />
                </td>
              </tr>
            </template>
          </tbody>
        </table>
        <label class="regions small"
          >Regions by data class, one a line (<span class="mono">personal: nordal</span>)
          <textarea v-model.lazy="regions" rows="3" class="mono" />
        </label>
        <div class="row small">
          <label
            >judged over <input v-model.lazy="draft.period" class="mono short" aria-label="Period"
          /></label>
          <label
            >calendar of <input v-model.lazy="draft.zone" class="mono" aria-label="Zone"
          /></label>
        </div>
      </div>
      <aside class="trial" aria-label="What the change would do">
        <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
        <TrialSheet :standard="standard" />
      </aside>
    </div>
  </template>
</template>

<style scoped>
.split {
  display: grid;
  grid-template-columns: minmax(620px, 1fr) minmax(260px, 400px);
  gap: 22px;
  align-items: start;
}
.trial {
  position: sticky;
  top: 0;
  border-left: 1px solid var(--rule-strong);
  padding-left: 16px;
}
.group {
  padding-top: 14px !important;
  color: var(--ink) !important;
}
.value {
  width: 96px;
}
input,
select,
textarea {
  font-size: 13px;
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 2px;
  padding: 2px 5px;
  width: 100%;
}
select {
  font-family: var(--sans);
}
.short,
.row input {
  width: 110px;
}
table.plain td {
  padding: 3px 10px 3px 0;
  vertical-align: middle;
}
.regions {
  display: grid;
  gap: 4px;
  margin: 14px 0 8px;
  max-width: 480px;
}
.wrong {
  color: var(--disproven);
}
@media (max-width: 1000px) {
  .split {
    grid-template-columns: 1fr;
  }
}
</style>
