<script setup lang="ts">
import { ref, watch } from 'vue'

/**
 * A selector in its simplest form: one condition on one field, as the JSON that the server takes.
 * Empty chooses everything.
 */
const scope = defineModel<string>({ required: true })

const FIELDS = [
  { title: 'every resource', value: '' },
  { title: 'tier is', value: 'tier' },
  { title: 'kind is', value: 'kind' },
  { title: 'environment is', value: 'environment' },
  { title: 'site is', value: 'site' },
  { title: 'workload is', value: 'workload' },
  { title: 'name is like', value: 'name' },
]
const field = ref('')
const values = ref('')

watch([field, values], () => {
  const list = values.value
    .split(',')
    .map((v) => v.trim())
    .filter(Boolean)
  scope.value =
    field.value && list.length ? JSON.stringify({ all: [{ field: field.value, in: list }] }) : ''
})
</script>

<template>
  <div class="scope">
    <v-select v-model="field" :items="FIELDS" label="Scope" />
    <v-text-field
      v-if="field"
      v-model="values"
      label="one or more, with commas"
      :placeholder="field === 'name' ? 'payroll-*' : undefined"
    />
  </div>
</template>

<style scoped>
.scope {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
}
</style>
