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
  /** Whether it needs the width of the page. */
  wide?: boolean
}>()
defineSlots<{
  default: () => unknown
  /** What it will do. */
  below?: () => unknown
  /** What it will do, where that needs room of its own; where there is little, it stands below. */
  beside?: () => unknown
}>()
const emit = defineEmits<{ close: []; submit: [] }>()
const id = useId()
</script>

<template>
  <v-dialog
    :model-value="true"
    :aria-label="title"
    :max-width="$slots.beside || wide ? 1180 : undefined"
    @update:model-value="emit('close')"
  >
    <v-card :title="title">
      <v-card-text :class="{ two: $slots.beside }">
        <div>
          <form :id="id" class="form" @submit.prevent="emit('submit')"><slot /></form>
          <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
          <slot name="below" />
        </div>
        <div v-if="$slots.beside"><slot name="beside" /></div>
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
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 32px;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
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
