<script setup lang="ts">
import { useId } from 'vue'

/** A form on one page of its own, with what went wrong and what it will do below. */
defineProps<{
  title: string
  /** What the button that does it says. */
  action: string
  ready: boolean
  busy: boolean
  problem?: string
  /** Why it is not ready, for the button. */
  hint?: string
}>()
const emit = defineEmits<{ close: []; submit: [] }>()
const id = useId()
</script>

<template>
  <v-dialog :model-value="true" @update:model-value="emit('close')">
    <v-card :title="title">
      <v-card-text>
        <form :id="id" class="form" @submit.prevent="emit('submit')"><slot /></form>
        <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
        <slot name="below" />
      </v-card-text>
      <v-card-actions>
        <v-btn @click="emit('close')">Cancel</v-btn>
        <v-btn
          type="submit"
          :form="id"
          color="primary"
          variant="flat"
          :loading="busy"
          :disabled="!ready"
          :title="ready ? undefined : hint"
          >{{ action }}</v-btn
        >
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.form {
  display: grid;
  gap: 12px;
  padding-top: 6px;
}
.form :deep(.pair) {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
}
.wrong {
  color: var(--disproven);
  margin: 10px 0 0;
}
</style>
