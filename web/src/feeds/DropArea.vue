<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Feeds, RecipeForm } from '@/api/types'
import { useServerData } from '@/api/useServerData'
import { useMay } from '@/people/useMay'
import RecipeSheet from '@/recipes/RecipeSheet.vue'
import { calledAfter, hasColumnsOf, isOfBundle } from '@/recipes/recipe'
import ReadingLine from './ReadingLine.vue'

/** Where files are dropped or chosen. Nothing is stored by it. */
const props = defineProps<{
  mayWork: boolean
  feeds: string[]
  files: Feeds['files']
  reading: boolean
}>()
const emit = defineEmits<{ handIn: [feed: string, files: File[], recipe: string] }>()

const MOST = 100_000_000
const feed = ref('')
const over = ref(false)
const problem = ref('')
const input = ref<HTMLInputElement>()

const { data: recipes, refresh: refreshRecipes } = useServerData('/api/recipes')
const { whyNotWork } = useMay()
const recipe = ref('')
const editing = ref<{ start?: RecipeForm; report?: File; waiting?: File[] }>()
const recipeNames = computed(() => [
  { value: '', title: 'as they say themselves' },
  ...(recipes.value ?? []).map((r) => ({
    value: r.name,
    title: `read by ${r.name}: ${[...new Set(r.outputs.map((o) => o.file))].join(', ')}`,
  })),
])

function kept(name: string) {
  const waiting = editing.value?.waiting
  recipe.value = name
  editing.value = undefined
  void refreshRecipes()
  if (waiting) emit('handIn', named.value, waiting, name)
}

const named = computed(() => feed.value?.trim() ?? '')

/** What is no file of the bundle is somebody's report: it is shown how that is read before anything is taken. */
async function take(list: FileList | null | undefined) {
  problem.value = ''
  const files = [...(list ?? [])]
  if (!files.length || !props.mayWork || props.reading) return
  const size = files.reduce((sum, f) => sum + f.size, 0)
  if (size > MOST) {
    problem.value =
      `${files.map((f) => f.name).join(', ')}: ${Math.round(size / 1e6)} MB is more than the 100 MB that the ` +
      'screen takes; nothing was sent. Split it, or use ./hard-proof import, which has no limit.'
    return
  }
  const codes = props.files.map((f) => f.file)
  const fits = await Promise.all(files.map((f) => hasColumnsOf(f, props.files)))
  const report = files.find((f, i) => !fits[i] || !isOfBundle(f.name, codes))
  if (!named.value) {
    if (!report) {
      problem.value = 'Name the feed the files come from first, then hand them in again.'
      return
    }
    feed.value = calledAfter(report.name)
  }
  const ofFeed = recipes.value?.find((r) => r.name.toLowerCase() === named.value.toLowerCase())
  const by = recipe.value || (report ? (ofFeed?.name ?? '') : '')
  if (report && !by) {
    editing.value = { report, waiting: files }
    return
  }
  emit('handIn', named.value, files, by)
}

function drop(event: DragEvent) {
  over.value = false
  void take(event.dataTransfer?.files)
}

async function choose() {
  await take(input.value?.files)
  if (input.value) input.value.value = ''
}
</script>

<template>
  <section
    class="drop"
    :class="{ over }"
    aria-label="Bring facts in"
    @dragover.prevent="over = mayWork"
    @dragleave="over = false"
    @drop.prevent="drop"
  >
    <div class="row">
      <v-combobox
        v-model="feed"
        :items="feeds"
        :disabled="!mayWork"
        label="Feed the files come from"
        density="compact"
        variant="outlined"
        hide-details
        class="feed"
      />
      <v-select
        v-model="recipe"
        :items="recipeNames"
        :disabled="!mayWork"
        label="Reports are read"
        density="compact"
        hide-details
        class="feed"
      />
      <button
        class="link small"
        type="button"
        :disabled="!mayWork"
        @click="editing = { start: recipes?.find((r) => r.name === recipe) }"
      >
        {{ recipe ? 'change this recipe' : 'write a recipe' }}
      </button>
      <span
        >Drop a report as it is (CSV, JSON, XLSX, a list of files), files of a bundle, or a zip,
        or</span
      >
      <v-btn
        :disabled="!mayWork || reading"
        :title="whyNotWork"
        :loading="reading"
        @click="input?.click()"
        >choose files</v-btn
      >
      <input
        ref="input"
        class="visually-hidden"
        type="file"
        multiple
        accept=".csv,.tsv,.txt,.lst,.list,.json,.jsonl,.ndjson,.xlsx,.xlsm,.zip"
        aria-label="Files of a bundle"
        tabindex="-1"
        :disabled="!mayWork"
        @change="choose"
      />
    </div>
    <p v-if="!mayWork" class="small quiet">
      Operators and administrators bring facts in, and only as at now.
    </p>
    <ReadingLine v-if="reading" doing="Reading and comparing with what is known" />
    <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    <details class="small">
      <summary class="quiet">What files of a bundle are called and which columns they have</summary>
      <table class="plain">
        <tbody>
          <tr v-for="f in files" :key="f.file">
            <td class="mono">{{ f.file }}.csv</td>
            <td class="mono columns">
              <template v-for="(c, i) in f.fields" :key="c.name"
                ><template v-if="i">, </template><b v-if="c.required">{{ c.name }}</b
                ><template v-else>{{ c.name }}</template></template
              >
            </td>
          </tr>
        </tbody>
      </table>
      <p class="quiet">
        Bold ones are required. Times as 2026-11-24T03:10:00Z; empty means not known. Files may also
        be laid into
        <span class="mono">inbox/FEED/</span> of the data folder; they are taken by themselves.
      </p>
    </details>
    <RecipeSheet
      v-if="editing"
      :files="files"
      :name="editing.start?.name ?? named"
      :start="editing.start"
      :report="editing.report"
      @close="editing = undefined"
      @kept="kept"
    />
  </section>
</template>

<style scoped>
.drop {
  border: 1px dashed var(--rule-strong);
  padding: 12px 14px;
  margin: 10px 0 14px;
}
.over {
  background: var(--selected);
}
.feed {
  min-width: 260px;
  max-width: 300px;
}
p {
  margin: 6px 0 0;
}
.wrong {
  color: var(--disproven);
}
details {
  margin-top: 6px;
}
summary {
  cursor: pointer;
}
.columns {
  font-size: 12px;
  line-height: 1.6;
}
</style>
