<script setup lang="ts">
import { ref } from 'vue'
import TakeAway from '@/frame/TakeAway.vue'
import SelectorFilter from '@/frame/SelectorFilter.vue'
import type { useBoardList } from './useBoardList'

/** Finding and narrowing the Board; what is chosen stands in the address. */
defineProps<{ list: ReturnType<typeof useBoardList>; total: number; fetching: boolean }>()

const field = ref<{ focus: () => void }>()
defineExpose({ focus: () => field.value?.focus() })
</script>

<template>
  <div class="filters">
    <v-text-field
      ref="field"
      class="find"
      :model-value="list.find.value"
      placeholder="Find a workload, owner or reason"
      aria-label="Find a workload, owner or reason"
      clearable
      @update:model-value="list.set({ find: $event || undefined })"
    />
    <span class="tiers" role="group" aria-label="Tiers">
      <button
        v-for="tier in ['1', '2', '3', '4']"
        :key="tier"
        class="chip"
        :aria-pressed="list.tiers.value.has(tier)"
        @click="list.toggle('tier', tier)"
      >
        tier {{ tier }}
      </button>
    </span>
    <SelectorFilter />
    <button v-if="list.filtered.value" class="link small" @click="list.clear">show all</button>
    <span class="space" />
    <span class="small quiet nowrap" aria-live="polite"
      >{{ list.shown.value.length }} of {{ total
      }}<template v-if="fetching"> · refreshing</template></span
    >
    <TakeAway name="workloads" :rows="() => list.shown.value" />
  </div>
</template>

<style scoped>
.filters {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 6px 20px;
}
.find {
  max-width: 290px;
}
.tiers {
  display: flex;
  gap: 6px;
}
.space {
  flex: 1;
}
</style>
