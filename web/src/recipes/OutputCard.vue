<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Feeds, OutputTrial, RecipeOutput } from '@/api/types'
import { from, meanings, meaningsOf, sourceOf } from './recipe'

/** One kind of rows that a report gives: each field, where it comes from, and what it comes to, side by side. */
const props = defineProps<{
  output: RecipeOutput
  fields: Feeds['files'][number]['fields']
  trial?: OutputTrial
}>()
const emit = defineEmits<{ change: [output: RecipeOutput]; remove: [] }>()

const SHOWN = 2
const added = ref<string[]>([])
const shown = computed(() =>
  props.fields.filter(
    (f) => f.required || props.output.fields[f.name] || added.value.includes(f.name),
  ),
)
const others = computed(() => props.fields.filter((f) => !shown.value.includes(f)))
const samples = (field: string) =>
  (props.trial?.rows ?? []).slice(0, SHOWN).map((row) => row[field] ?? '')

function change(field: string, value: RecipeOutput['fields'][string]) {
  emit('change', { ...props.output, fields: { ...props.output.fields, [field]: value } })
}
const text = (event: Event) => (event.target as HTMLInputElement).value

function add(event: Event) {
  added.value.push(text(event))
  ;(event.target as HTMLSelectElement).value = ''
}
</script>

<template>
  <section class="card" :aria-label="`What it gives as ${output.file}`">
    <div class="row head">
      <h3>{{ output.file }}</h3>
      <span v-if="trial" class="small quiet">
        {{ trial.good }} of the first {{ trial.read }} rows<template v-if="trial.leftOut"
          >, {{ trial.leftOut }} left out</template
        ><template v-if="trial.rejected"
          >, <b class="wrong">{{ trial.rejected }} can’t be taken</b></template
        >
      </span>
      <button
        class="link small remove"
        type="button"
        :aria-label="`Give no ${output.file}`"
        @click="emit('remove')"
      >
        leave out
      </button>
    </div>
    <div class="row small rows">
      <label class="when"
        >Rows where
        <input
          :value="output.when ?? ''"
          placeholder="all"
          :aria-label="`Rows that give ${output.file}`"
          @change="emit('change', { ...output, when: text($event) || undefined })"
      /></label>
      <label
        ><input
          type="checkbox"
          :checked="!!output.once"
          @change="emit('change', { ...output, once: ($event.target as HTMLInputElement).checked })"
        />
        one for each key</label
      >
    </div>
    <table class="plain">
      <thead>
        <tr>
          <th>Field</th>
          <th>Column, or = expression</th>
          <th>Meaning or unit</th>
          <th>Else</th>
          <th v-for="n in samples('key').length" :key="n">{{ n === 1 ? 'First row' : 'Next' }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="f in shown" :key="f.name">
          <td class="mono" :title="f.words">
            <b v-if="f.required">{{ f.name }}</b><template v-else>{{ f.name }}</template>
          </td>
          <td>
            <input
              :value="sourceOf(output.fields[f.name])"
              :title="sourceOf(output.fields[f.name])"
              list="report-columns"
              class="mono source"
              :aria-label="`${output.file}.${f.name} comes from`"
              @change="change(f.name, from(text($event), output.fields[f.name]))"
            />
          </td>
          <td>
            <select
              v-if="f.units.length"
              :value="output.fields[f.name]?.unit ?? ''"
              :aria-label="`Unit of ${output.file}.${f.name}`"
              @change="
                change(f.name, { ...output.fields[f.name], unit: text($event) || undefined })
              "
            >
              <option v-for="u in ['', ...f.units]" :key="u" :value="u">{{ u || 'as is' }}</option>
            </select>
            <input
              v-else
              :value="meaningsOf(output.fields[f.name])"
              :title="meaningsOf(output.fields[f.name])"
              placeholder="theirs=ours; …"
              :aria-label="`Meanings in ${output.file}.${f.name}`"
              @change="
                change(f.name, { ...output.fields[f.name], meanings: meanings(text($event)) })
              "
            />
          </td>
          <td>
            <input
              :value="output.fields[f.name]?.otherwise ?? ''"
              class="else"
              :aria-label="`${output.file}.${f.name} where that is empty`"
              @change="
                change(f.name, { ...output.fields[f.name], otherwise: text($event) || undefined })
              "
            />
          </td>
          <td
            v-for="(value, i) in samples(f.name)"
            :key="i"
            class="small sample"
            :class="{ wrong: trial?.wrong[f.name] }"
            :title="value"
          >
            {{ value }}
          </td>
        </tr>
      </tbody>
    </table>
    <select
      v-if="others.length"
      class="more"
      :aria-label="`Another field of ${output.file}`"
      @change="add"
    >
      <option value="">another field …</option>
      <option v-for="f in others" :key="f.name" :value="f.name">{{ f.name }}</option>
    </select>
    <ul v-if="trial?.rejections.length" class="small wrong">
      <li v-for="(r, i) in trial.rejections.slice(0, 3)" :key="i">
        row {{ r.line }}<template v-if="r.field">, {{ r.field }}</template
        ><template v-if="r.value"> “{{ r.value }}”</template> {{ r.reason }}
      </li>
    </ul>
  </section>
</template>

<style scoped>
.card {
  border: 1px solid var(--rule);
  padding: 8px 10px;
  margin-top: 10px;
}
.head {
  align-items: baseline;
}
.rows {
  padding: 2px 0 4px;
}
.remove {
  margin-left: auto;
}
.when {
  flex: 1;
  display: flex;
  gap: 6px;
  align-items: center;
  white-space: nowrap;
}
input:not([type='checkbox']),
select {
  font: 12.5px var(--sans);
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 2px;
  padding: 2px 5px;
  width: 100%;
  min-width: 60px;
}
input.else {
  max-width: 130px;
}
input.source {
  min-width: 170px;
  font-family: var(--mono);
}
.more {
  width: 150px;
  margin-top: 4px;
}
table.plain {
  width: 100%;
}
table.plain td {
  padding: 1px 8px 1px 0;
  vertical-align: middle;
}
.sample {
  max-width: 190px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.wrong {
  color: var(--disproven);
}
ul {
  margin: 6px 0 0 16px;
  overflow-wrap: anywhere;
}
</style>
