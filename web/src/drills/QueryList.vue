<script setup lang="ts">
import type { Query } from '@/api/client'

/** What is asked of a restored database. Without a question it is shown restored, not running. */
const queries = defineModel<Query[]>({ required: true })
const keep = defineModel<boolean>('keep', { required: true })

const OPERATORS = [
  { title: 'equal to', value: 'equals' },
  { title: 'at least', value: 'at-least' },
]

function add() {
  queries.value = [...queries.value, { query: '', operator: 'equals', expected: '' }]
}

function remove(index: number) {
  queries.value = queries.value.filter((_, i) => i !== index)
}
</script>

<template>
  <fieldset>
    <legend class="small quiet">
      Asked of the restored database, each for the first value of its first row
    </legend>
    <div v-for="(q, i) in queries" :key="i" class="query">
      <v-text-field v-model="q.query" label="SELECT …" class="mono" />
      <v-select v-model="q.operator" :items="OPERATORS" label="must be" />
      <v-text-field v-model="q.expected" label="value" />
      <v-btn :aria-label="`Remove query ${i + 1}`" @click="remove(i)">×</v-btn>
    </div>
    <div class="row">
      <v-btn @click="add">Add a query</v-btn>
      <v-checkbox v-model="keep" label="keep them for the next drills of this resource" />
    </div>
    <p v-if="!queries.length" class="small quiet">
      Without a query a pass shows restored; with one it shows running.
    </p>
  </fieldset>
</template>

<style scoped>
fieldset {
  border: 1px solid var(--rule);
  padding: 8px 10px;
}
.query {
  display: grid;
  grid-template-columns: 1fr 120px 110px auto;
  gap: 8px;
  align-items: center;
  margin-bottom: 8px;
}
p {
  margin: 0;
}
</style>
