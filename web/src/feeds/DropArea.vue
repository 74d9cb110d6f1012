<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Feeds, MappingForm } from '@/api/types'
import { useServerData } from '@/api/useServerData'
import { useMay } from '@/people/useMay'
import MappingSheet from './MappingSheet.vue'
import ReadingLine from './ReadingLine.vue'

/** Where files are dropped or chosen. Nothing is stored by it. */
const props = defineProps<{
  mayWork: boolean
  feeds: string[]
  files: Feeds['files']
  reading: boolean
}>()
const emit = defineEmits<{ handIn: [feed: string, files: File[], mapping: string] }>()

const MOST = 100_000_000
const feed = ref('')
const over = ref(false)
const problem = ref('')
const input = ref<HTMLInputElement>()

const { data: mappings, refresh: refreshMappings } = useServerData('/api/mappings')
const { whyNotWork } = useMay()
const mapping = ref('')
const editing = ref<{ start?: MappingForm }>()
const mappingNames = computed(() => [
  { value: '', title: 'named and shaped as below' },
  ...(mappings.value ?? []).map((m) => ({ value: m.name, title: `${m.name}: ${m.file}` })),
])

function kept(name: string) {
  mapping.value = name
  editing.value = undefined
  void refreshMappings()
}

const named = computed(() => feed.value?.trim() ?? '')

function take(list: FileList | null | undefined) {
  problem.value = ''
  const files = [...(list ?? [])]
  if (!files.length || !props.mayWork || props.reading) return
  if (!named.value) {
    problem.value = 'Name the feed the files come from first, then hand them in again.'
    return
  }
  const size = files.reduce((sum, f) => sum + f.size, 0)
  if (size > MOST) {
    problem.value =
      `${files.map((f) => f.name).join(', ')}: ${Math.round(size / 1e6)} MB is more than the 100 MB that the ` +
      'screen takes; nothing was sent. Split it, or use ./hard-proof import, which has no limit.'
    return
  }
  emit('handIn', named.value, files, mapping.value)
}

function drop(event: DragEvent) {
  over.value = false
  take(event.dataTransfer?.files)
}

function choose() {
  take(input.value?.files)
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
        v-model="mapping"
        :items="mappingNames"
        :disabled="!mayWork"
        label="The files are"
        density="compact"
        hide-details
        class="feed"
      />
      <button
        class="link small"
        type="button"
        :disabled="!mayWork"
        @click="editing = { start: mappings?.find((m) => m.name === mapping) }"
      >
        {{ mapping ? 'change this mapping' : 'they have other columns' }}
      </button>
      <span>Drop CSV or JSON files, or a zip of them, or</span>
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
        accept=".csv,.tsv,.json,.jsonl,.ndjson,.zip"
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
      <summary class="quiet">What the files are called and which columns they have</summary>
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
    <MappingSheet
      v-if="editing"
      :files="files"
      :start="editing.start"
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
