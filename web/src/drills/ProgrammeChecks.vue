<script setup lang="ts">
import { computed } from 'vue'
import type { CheckView } from '@/api/types'
import { useServerData } from '@/api/useServerData'

/** Checks of a programme's own: asked besides those of each resource, where they suit what was restored. */
const checks = defineModel<CheckView[]>({ required: true })
const { data: kinds } = useServerData('/api/check-types')
const items = computed(() => (kinds.value ?? []).map((k) => ({ title: k.words, value: k.type })))

function add() {
  const first = kinds.value?.[0]
  if (first) checks.value = [...checks.value, { type: first.type, subject: '', expected: '' }]
}
function kind(check: CheckView) {
  return kinds.value?.find((k) => k.type === check.type)
}
</script>

<template>
  <fieldset>
    <legend class="small quiet">Its own checks, besides those kept with each resource</legend>
    <div v-for="(c, i) in checks" :key="i" class="check">
      <v-select v-model="c.type" :items="items" :aria-label="`Type of check ${i + 1}`" />
      <v-text-field v-model="c.subject" :label="kind(c)?.subject ?? 'Of what'" />
      <v-text-field v-if="kind(c)?.expected" v-model="c.expected" :label="kind(c)?.expected" />
      <button
        type="button"
        class="link"
        :aria-label="`Take away check ${i + 1}`"
        @click="checks = checks.filter((_, n) => n !== i)"
      >
        ×
      </button>
    </div>
    <button type="button" class="link small" @click="add">add a check</button>
  </fieldset>
</template>

<style scoped>
.check {
  display: grid;
  grid-template-columns: 1fr 1fr 1fr auto;
  gap: 8px;
  margin-bottom: 8px;
}
</style>
