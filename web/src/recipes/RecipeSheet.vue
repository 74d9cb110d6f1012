<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { answerOf, api, formOf } from '@/api/client'
import type { Feeds, OutputTrial, RecipeForm, RecipeOutput, RecipeSuggestion } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import FormDialog from '@/frame/FormDialog.vue'
import OutputCard from './OutputCard.vue'
import { firstLines, recipeOf } from './recipe'

/**
 * How somebody else's report becomes facts: guessed from it, shown with what it gives, changed by a person, and kept for
 * the next time.
 */
const props = defineProps<{
  files: Feeds['files']
  /** What it is called: that of the feed, so that the inbox uses it. */
  name: string
  start?: RecipeForm
  report?: File
}>()
const emit = defineEmits<{ close: []; kept: [name: string] }>()

const ZONE = Intl.DateTimeFormat().resolvedOptions().timeZone
const form = ref<RecipeForm>(props.start ?? { name: props.name, outputs: [] })
const chosen = ref<File | undefined>(props.report)
const notes = ref<string[]>([])
const columns = ref<RecipeSuggestion['columns']>([])
const trials = ref<OutputTrial[]>([])
const { attempt, busy, problem } = useAttempt()
const { latest, busy: reading, problem: trialProblem } = useAttempt()
let sample: File | undefined

const fieldsOf = (file: string) => props.files.find((f) => f.file === file)?.fields ?? []
const wrong = computed(() => trials.value.reduce((n, t) => n + t.rejected, 0))
const rest = computed(() =>
  props.files.map((f) => f.file).filter((f) => !form.value.outputs.some((o) => o.file === f)),
)

async function guess() {
  const report = chosen.value
  if (!report) return
  sample = await firstLines(report)
  const body = new FormData()
  body.set('report', report, report.name)
  await latest(
    () =>
      answerOf(
        api.POST('/api/recipe-suggestions', {
          params: { query: { name: form.value.name || props.name, zone: ZONE } },
          ...formOf(body),
        }),
      ),
    (answer) => {
      if (!answer) return
      notes.value = answer.notes
      columns.value = answer.columns
      if (props.start) return void tryOut()
      trials.value = answer.outputs
      if (answer.recipe) form.value = { ...answer.recipe, name: form.value.name }
    },
  )
}

async function tryOut() {
  if (!sample || !form.value.outputs.length) return
  const body = new FormData()
  body.set('report', sample, sample.name)
  const named = { ...form.value, name: form.value.name || 'report' }
  body.set('recipe', new Blob([JSON.stringify(named)], { type: 'application/json' }))
  await latest(
    () => answerOf(api.POST('/api/recipe-trials', { ...formOf(body) })),
    (answer) => {
      if (answer) trials.value = answer
    },
  )
}

onMounted(guess)

function choose(event: Event) {
  chosen.value = (event.target as HTMLInputElement).files?.[0]
  void guess()
}

function change(more: Partial<RecipeForm>) {
  form.value = { ...form.value, ...more }
  void tryOut()
}

function output(at: number, changed?: RecipeOutput) {
  const outputs = [...form.value.outputs]
  const shown = [...trials.value]
  outputs.splice(at, 1, ...(changed ? [changed] : []))
  if (!changed) shown.splice(at, 1)
  trials.value = shown
  change({ outputs })
}

function add(event: Event) {
  const file = (event.target as HTMLSelectElement).value
  ;(event.target as HTMLSelectElement).value = ''
  if (file) form.value = { ...form.value, outputs: [...form.value.outputs, { file, fields: {} }] }
}

function takeAway() {
  const link = document.createElement('a')
  const text = JSON.stringify(form.value, null, 2)
  link.href = URL.createObjectURL(new Blob([text], { type: 'application/json' }))
  link.download = `${form.value.name || 'recipe'}.recipe.json`
  link.click()
  window.setTimeout(() => URL.revokeObjectURL(link.href), 10_000)
}

async function bringIn(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  const read = recipeOf(await file.text())
  problem.value = read ? '' : `${file.name} is no recipe: it needs a name and outputs.`
  if (read) change({ ...read, name: form.value.name || read.name })
}

const keep = () =>
  attempt(async () => {
    await answerOf(api.PUT('/api/recipes', { body: form.value }))
    emit('kept', form.value.name.trim())
  })

const text = (event: Event) => (event.target as HTMLInputElement).value
const number = (event: Event) => Math.max(0, Math.floor(Number(text(event)) || 0))
</script>

<template>
  <FormDialog
    :title="chosen ? `How ${chosen.name} is read` : 'How a report is read'"
    action="Keep the recipe"
    :ready="!!form.name.trim() && form.outputs.length > 0"
    :busy="busy"
    :problem="problem"
    hint="Give it a name, and something that it gives"
    wide
    @close="emit('close')"
    @submit="keep"
  >
    <div class="row">
      <v-text-field
        v-model="form.name"
        label="Name (that of the feed: the inbox uses it)"
        class="name"
      />
      <label v-if="!report" class="small"
        >A report, to look at (nothing is stored):
        <input
          type="file"
          accept=".csv,.tsv,.txt,.lst,.json,.jsonl,.ndjson,.xlsx,.xlsm"
          aria-label="A report to look at"
          @change="choose"
        />
      </label>
      <span class="row small away">
        <button class="link" type="button" :disabled="!form.outputs.length" @click="takeAway">
          take it away as JSON
        </button>
        <label class="link bring"
          >bring one in
          <input
            class="visually-hidden"
            type="file"
            accept=".json"
            aria-label="A recipe as JSON"
            @change="bringIn"
          />
        </label>
      </span>
    </div>
    <p v-if="reading && !trials.length" class="small quiet" role="status">Reading it …</p>
    <p v-if="trialProblem" class="wrong small" role="alert">{{ trialProblem }}</p>
    <div v-if="notes.length" class="notes small">
      <b>Taken for granted</b>; change what is wrong:
      <ul>
        <li v-for="n in notes" :key="n">{{ n }}</li>
      </ul>
    </div>
    <details class="small" :open="!!start">
      <summary>
        Names in {{ form.header === 0 ? 'no line' : `line ${form.header ?? 1}`
        }}<template v-if="form.sheets?.length">, sheet {{ form.sheets.join(', ') }}</template
        ><template v-if="form.path">, rows in {{ form.path }}</template
        ><template v-if="form.zone">; times in {{ form.zone }}</template
        ><template v-if="form.timePattern">, written {{ form.timePattern }}</template>
      </summary>
      <div class="layout">
        <label
          >Names in line<input
            aria-label="Names in line"
            type="number"
            min="0"
            :value="form.header ?? 1"
            title="0 where there are none"
            @change="change({ header: number($event) })"
        /></label>
        <label
          >Rows at the end that are none<input
            aria-label="Rows at the end that are none"
            type="number"
            min="0"
            :value="form.footers ?? 0"
            @change="change({ footers: number($event) })"
        /></label>
        <label
          >Between fields<select
            aria-label="Between fields"
            :value="form.separator ?? ''"
            @change="change({ separator: text($event) })"
          >
            <option value="">as found</option>
            <option v-for="s in [',', ';', '|', 'tab', 'none']" :key="s" :value="s">{{ s }}</option>
          </select></label
        >
        <label
          >Times in the zone<input
            aria-label="Times in the zone"
            :value="form.zone ?? ''"
            placeholder="Europe/Oslo"
            @change="change({ zone: text($event) })"
        /></label>
        <label
          >Times are written<input
            aria-label="Times are written"
            :value="form.timePattern ?? ''"
            placeholder="dd.MM.yyyy HH:mm, epoch-seconds"
            @change="change({ timePattern: text($event) })"
        /></label>
        <label
          >Sheets<input
            aria-label="Sheets"
            :value="form.sheets?.join('; ') ?? ''"
            placeholder="the first"
            @change="
              change({
                sheets: text($event)
                  .split(';')
                  .map((s) => s.trim()),
              })
            "
        /></label>
        <label
          >Rows in JSON under<input
            aria-label="Rows in JSON under"
            :value="form.path ?? ''"
            placeholder="data.jobs"
            @change="change({ path: text($event) })"
        /></label>
        <label
          >Empty means as above<input
            aria-label="Empty means as above"
            :value="form.filledDown?.join('; ') ?? ''"
            placeholder="columns"
            @change="
              change({
                filledDown: text($event)
                  .split(';')
                  .map((s) => s.trim()),
              })
            "
        /></label>
      </div>
    </details>
    <div v-if="columns.length" class="small columns">
      <b>Columns of the report</b>
      <span v-for="c in columns" :key="c.name"
        ><span class="mono">{{ c.name }}</span>
        <span class="quiet said">{{ c.samples.slice(0, 2).join(' · ') }}</span></span
      >
    </div>
    <div>
      <OutputCard
        v-for="(o, i) in form.outputs"
        :key="`${i} ${o.file}`"
        :output="o"
        :fields="fieldsOf(o.file)"
        :trial="trials[i]?.file === o.file ? trials[i] : undefined"
        @change="output(i, $event)"
        @remove="output(i)"
      />
      <p class="small">
        <select class="more" aria-label="Give something else as well" @change="add">
          <option value="">give something else as well …</option>
          <option v-for="f in rest" :key="f" :value="f">{{ f }}</option>
        </select>
      </p>
    </div>
    <datalist id="report-columns">
      <option v-for="c in columns" :key="c.name" :value="c.name" />
    </datalist>
    <p v-if="wrong" class="small">
      What can’t be taken is said again, row by row, when the whole report is read.
    </p>
  </FormDialog>
</template>

<style scoped>
.name {
  min-width: 280px;
  max-width: 340px;
}
.away {
  margin-left: auto;
  gap: 12px;
}
.bring {
  cursor: pointer;
}
.bring:focus-within {
  outline: 2px solid var(--focus, currentColor);
}
.notes {
  border-left: 3px solid var(--rule-strong);
  padding-left: 10px;
}
.notes ul {
  margin: 2px 0 0 16px;
}
.layout {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 6px 12px;
  padding: 6px 0;
}
.layout input,
.layout select,
.more {
  display: block;
  font: 13px var(--sans);
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 2px;
  padding: 2px 5px;
  width: 100%;
}
.more {
  width: 230px;
}
.columns {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
}
.columns > span {
  max-width: 320px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.said {
  margin-left: 5px;
}
summary {
  cursor: pointer;
}
.wrong {
  color: var(--disproven);
}
p {
  margin: 4px 0 0;
}
</style>
