<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { answerOf, api, formOf } from '@/api/client'
import type { Feeds, MappingForm, MappingSuggestion } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import FormDialog from '@/frame/FormDialog.vue'

/**
 * A mapping for somebody else's export: its columns side by side with the fields, guessed from a file
 * and changed by a person; kept for the next time.
 */
const props = defineProps<{ files: Feeds['files']; start?: MappingForm }>()
const emit = defineEmits<{ close: []; kept: [name: string] }>()

const as = ref(props.start?.file ?? 'points')
const suggestion = ref<MappingSuggestion>()
const chosen = ref<File>()
const form = ref<MappingForm>(
  props.start ?? {
    name: '',
    file: 'points',
    columns: {},
    constants: {},
    values: {},
    zone: '',
    timePattern: '',
    units: {},
  },
)
const meanings = ref<Record<string, string>>(
  Object.fromEntries(
    Object.entries(form.value.values).map(([field, map]) => [
      field,
      Object.entries(map)
        .map(([from, to]) => `${from}=${to}`)
        .join('; '),
    ]),
  ),
)
const { attempt, latest, busy, problem } = useAttempt()

const fields = computed(() => props.files.find((f) => f.file === as.value)?.fields ?? [])
const columns = computed(() => suggestion.value?.columns ?? [])
const samples = (field: string) =>
  columns.value.find((c) => c.name === form.value.columns[field])?.samples.join(' · ') ?? ''

watch([chosen, as], async () => {
  if (!chosen.value) return
  const body = new FormData()
  body.set('export', chosen.value, chosen.value.name)
  await latest(
    () =>
      answerOf(
        api.POST('/api/mapping-suggestions', {
          params: { query: { as: as.value } },
          ...formOf(body),
        }),
      ),
    (answer) => {
      if (!answer) return
      suggestion.value = answer
      form.value.columns = { ...answer.guessed }
    },
  )
})

function choose(event: Event) {
  chosen.value = (event.target as HTMLInputElement).files?.[0]
}

async function keep() {
  const values = Object.fromEntries(
    Object.entries(meanings.value)
      .map(([field, text]) => [
        field,
        Object.fromEntries(
          text
            .split(';')
            .map((pair) => pair.split('='))
            .filter((pair) => pair.length === 2 && pair[0]?.trim())
            .map(([from, to]) => [(from ?? '').trim(), (to ?? '').trim()]),
        ),
      ])
      .filter(([, map]) => Object.keys(map as object).length),
  ) as Record<string, Record<string, string>>
  await attempt(async () => {
    await answerOf(api.PUT('/api/mappings', { body: { ...form.value, file: as.value, values } }))
    emit('kept', form.value.name.trim())
  })
}
</script>

<template>
  <FormDialog
    title="What the columns of an export mean"
    action="Keep the mapping"
    :ready="!!form.name.trim()"
    :busy="busy"
    :problem="problem"
    hint="Give it a name"
    @close="emit('close')"
    @submit="keep"
  >
    <div class="pair">
      <v-text-field v-model="form.name" label="Name (that of the feed: the inbox uses it)" />
      <v-select v-model="as" :items="files.map((f) => f.file)" label="The export holds" />
    </div>
    <label class="small"
      >A file of it, to guess from (nothing is stored):
      <input type="file" accept=".csv,.tsv,.json,.jsonl,.ndjson" @change="choose" />
    </label>
    <div class="scroll">
      <table class="plain">
        <thead>
          <tr>
            <th>Field</th>
            <th>Column of the export</th>
            <th>Samples</th>
            <th>Means (theirs=ours; …) or unit</th>
            <th>Else always</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="f in fields" :key="f.name">
            <td class="mono" :title="f.words">
              <b v-if="f.required">{{ f.name }}</b><template v-else>{{ f.name }}</template>
            </td>
            <td>
              <input
                v-model="form.columns[f.name]"
                list="export-columns"
                :aria-label="`Column for ${f.name}`"
              />
            </td>
            <td class="small quiet samples" :title="samples(f.name)">{{ samples(f.name) }}</td>
            <td>
              <select
                v-if="f.units.length"
                v-model="form.units[f.name]"
                :aria-label="`Unit of ${f.name}`"
              >
                <option v-for="u in ['', ...f.units]" :key="u" :value="u">
                  {{ u || 'as written' }}
                </option>
              </select>
              <input v-else v-model="meanings[f.name]" :aria-label="`Meanings for ${f.name}`" />
            </td>
            <td>
              <input v-model="form.constants[f.name]" :aria-label="`Constant for ${f.name}`" />
            </td>
          </tr>
        </tbody>
      </table>
      <datalist id="export-columns">
        <option v-for="c in columns" :key="c.name" :value="c.name" />
      </datalist>
    </div>
    <div class="pair">
      <v-text-field
        v-model="form.timePattern"
        label="Times are written as"
        placeholder="dd.MM.yyyy HH:mm, epoch-seconds, or empty"
      />
      <v-text-field v-model="form.zone" label="in the zone" placeholder="Europe/Oslo" />
    </div>
  </FormDialog>
</template>

<style scoped>
.scroll {
  max-height: 320px;
  overflow: auto;
}
input:not([type='file']),
select {
  font: 13px var(--sans);
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 2px;
  padding: 2px 5px;
  width: 100%;
}
table.plain td {
  padding: 2px 8px 2px 0;
  vertical-align: middle;
}
.samples {
  max-width: 170px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
