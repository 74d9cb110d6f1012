<script setup lang="ts">
import { computed } from 'vue'
import type { DrillOrder } from '@/api/types'

/** What can be said about how a method works; shown only where there is something to say. */
const props = defineProps<{ method: string }>()
const options = defineModel<NonNullable<DrillOrder['options']>>({ required: true })

const ENGINES = [
  { title: 'the quick one first, then QEMU', value: '' },
  { title: 'the stand-in engine only', value: 'stand-in' },
  { title: 'QEMU', value: 'qemu' },
]

const paths = computed({
  get: () => (options.value.paths ?? []).join('\n'),
  set: (text) =>
    (options.value = { ...options.value, paths: text.split('\n').filter((p) => p.trim()) }),
})

function set(name: 'sample' | 'bootSeconds', value: string) {
  const number = Number.parseInt(value, 10)
  options.value = { ...options.value, [name]: Number.isNaN(number) ? undefined : number }
}
</script>

<template>
  <div v-if="props.method === 'sample-restore'" class="options">
    <v-text-field
      :model-value="options.sample ?? 20"
      label="Files drawn"
      type="number"
      min="1"
      @update:model-value="set('sample', $event)"
    />
    <v-text-field
      v-model="options.seed"
      label="Seed (the same draws the same again)"
      maxlength="100"
    />
    <v-textarea
      v-model="paths"
      class="wide mono"
      label="Or these files, a path a line"
      rows="2"
      auto-grow
      max-rows="6"
    />
  </div>
  <div v-else-if="props.method === 'boot'" class="options">
    <v-select v-model="options.engine" :items="ENGINES" label="Boot engine" />
    <v-text-field
      :model-value="options.bootSeconds ?? 180"
      label="Seconds until it must have started"
      type="number"
      min="5"
      @update:model-value="set('bootSeconds', $event)"
    />
  </div>
</template>

<style scoped>
.options {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
}
.wide {
  grid-column: 1 / -1;
}
</style>
