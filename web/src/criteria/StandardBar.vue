<script setup lang="ts">
import { computed, ref } from 'vue'
import Moment from '@/frame/Moment.vue'
import { useMay } from '@/people/useMay'
import type { StandardEditor } from './useStandard'

/** Which standard is shown, whether it holds, and saving a change of it. */
const props = defineProps<{ standard: StandardEditor }>()
const { whyNotKeepStandards } = useMay()
const { all, shown, draft, changed, isInForce, maySave, said } = props.standard
const note = ref('')

const versions = computed(() =>
  (all.data.value?.versions ?? []).map((v) => ({
    value: `${v.name} ${v.version}`,
    title:
      `${v.name} ${v.version}` +
      (v.name === all.data.value?.inForce.name && v.version === all.data.value.inForce.version
        ? ' (in force)'
        : ''),
    name: v.name,
    version: v.version,
  })),
)
const about = computed(() =>
  all.data.value?.versions.find(
    (v) => v.name === shown.value?.name && v.version === shown.value.version,
  ),
)

function choose(title: string) {
  const version = versions.value.find((v) => v.value === title)
  if (version) void props.standard.show({ name: version.name, version: version.version })
}

async function save() {
  await props.standard.save(note.value)
  note.value = ''
}
</script>

<template>
  <div class="bar">
    <select
      :value="`${shown?.name} ${shown?.version}`"
      aria-label="Standard and version"
      @change="choose(($event.target as HTMLSelectElement).value)"
    >
      <option v-for="v in versions" :key="v.value" :value="v.value">{{ v.title }}</option>
    </select>
    <span class="small quiet">
      {{ about?.note
      }}<template v-if="about?.savedAt">
        · {{ about.savedBy }}, <Moment :at="about.savedAt"
      /></template>
    </span>
    <v-btn
      v-if="!isInForce && !changed"
      :disabled="!maySave"
      :title="whyNotKeepStandards"
      @click="standard.putInForce"
      >Put in force</v-btn
    >
    <form v-if="changed && draft" class="row" @submit.prevent="save">
      <input
        v-model="draft.name"
        aria-label="Name; another one makes a new standard"
        class="name"
      />
      <input
        v-model="note"
        placeholder="what changed, and why"
        aria-label="What changed"
        class="note"
      />
      <v-btn
        type="submit"
        color="primary"
        variant="flat"
        :disabled="!maySave || !note.trim()"
        :title="whyNotKeepStandards || (note.trim() ? '' : 'Say what is changed and why.')"
        >Save as a new version</v-btn
      >
      <button type="button" class="link small" @click="standard.discard">discard</button>
      <span v-if="!maySave" class="small quiet">Anybody may try; administrators save.</span>
    </form>
    <span v-if="said" class="small" role="status">{{ said }}</span>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: center;
  margin-bottom: 10px;
}
select,
input {
  font: 13px var(--sans);
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--rule-strong);
  border-radius: 2px;
  padding: 4px 7px;
}
.name {
  width: 120px;
}
.note {
  width: 230px;
}
</style>
