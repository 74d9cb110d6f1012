<script setup lang="ts">
import type { Known } from './useAsAt'

/** Two questions can be asked of an instant that has been. */
const known = defineModel<Known>({ required: true })
</script>

<template>
  <v-radio-group v-model="known" hide-details density="compact" aria-label="By what was known">
    <v-radio value="then" label="Known then: by facts that had come by then" />
    <v-radio value="now" label="In hindsight: by all that is known now of it" />
  </v-radio-group>
</template>
