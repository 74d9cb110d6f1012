<script setup lang="ts">
import type { FindingsPage } from '@/api/types'

/** The groups of the findings that are asked for, to look into one of them. */
defineProps<{ groups: FindingsPage['groups']; inside: string | undefined }>()
defineEmits<{ choose: [value: string | undefined] }>()
</script>

<template>
  <nav class="groups" aria-label="Groups">
    <button :aria-current="inside === undefined" @click="$emit('choose', undefined)">
      <span>all</span><span class="mono">{{ groups.length }}</span>
    </button>
    <button
      v-for="g in groups"
      :key="g.value"
      :aria-current="inside === g.value"
      @click="$emit('choose', g.value)"
    >
      <span :class="{ wrong: g.unprotected }">{{ g.title }}</span><span class="mono">{{
        g.count
      }}</span>
    </button>
  </nav>
</template>

<style scoped>
.groups {
  flex: none;
  width: 232px;
  overflow: auto;
  border-right: 1px solid var(--rule);
  padding: 4px 0;
}
.groups button {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  width: 100%;
  text-align: left;
  font: 13px var(--sans);
  color: inherit;
  background: none;
  border: 0;
  padding: 4px 12px 4px 20px;
  cursor: pointer;
}
.groups button[aria-current='true'] {
  background: var(--selected);
  font-weight: 600;
}
.wrong {
  color: var(--disproven);
}
@media (max-width: 900px) {
  .groups {
    display: none;
  }
}
</style>
