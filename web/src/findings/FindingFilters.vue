<script setup lang="ts">
import { ref, watch } from 'vue'
import TakeAway from '@/frame/TakeAway.vue'
import SelectorFilter from '@/frame/SelectorFilter.vue'
import { GROUPINGS, type useFindings } from './useFindings'

/** Finding, narrowing and grouping findings; what is chosen stands in the address. */
const props = defineProps<{ list: ReturnType<typeof useFindings> }>()

const field = ref<{ focus: () => void }>()
defineExpose({ focus: () => field.value?.focus() })

const STATES = [
  { value: 'open', title: 'open' },
  { value: 'new', title: 'not looked at' },
  { value: 'looked', title: 'looked at' },
  { value: 'excepted', title: 'accepted' },
]
const TIERS = ['', '1', '2', '3', '4']

/** The address follows what is typed when the typing rests: each change asks the server. */
const REST_MS = 250
const typed = ref(props.list.find.value)
let waiting = 0
watch(typed, (text) => {
  window.clearTimeout(waiting)
  if ((text ?? '') === props.list.find.value) return
  waiting = window.setTimeout(() => props.list.set({ find: text || undefined }), REST_MS)
})
watch(props.list.find, (find) => {
  typed.value = find
})

function chosen(event: Event) {
  return (event.target as HTMLSelectElement).value || undefined
}
</script>

<template>
  <div class="bar">
    <v-text-field
      ref="field"
      v-model="typed"
      density="compact"
      hide-details
      label="Find"
      aria-label="Find a finding"
      class="find"
    />
    <div class="choices" role="radiogroup" aria-label="State">
      <button
        v-for="s in STATES"
        :key="s.value"
        role="radio"
        :aria-checked="list.state.value === s.value"
        @click="list.set({ state: s.value === 'open' ? undefined : s.value })"
      >
        {{ s.title }}
      </button>
    </div>
    <label class="small"
      >tier
      <select :value="list.tier.value" @change="list.set({ tier: chosen($event) })">
        <option v-for="t in TIERS" :key="t" :value="t">{{ t || 'any' }}</option>
      </select></label
    >
    <SelectorFilter />
    <label class="small"
      >shown
      <select
        :value="list.group.value"
        @change="list.set({ group: chosen($event), in: undefined })"
      >
        <option v-for="g in GROUPINGS" :key="g.value" :value="g.value">{{ g.title }}</option>
      </select></label
    >
    <span class="small quiet" aria-live="polite"
      >{{ list.rows.value.length }} of {{ list.page.value?.total ?? 0 }}</span
    >
    <TakeAway name="findings" :rows="list.everything" />
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 14px;
  align-items: center;
  padding: 6px 20px;
}
.find {
  max-width: 230px;
}
select {
  font: inherit;
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--rule-strong);
  border-radius: 2px;
  padding: 3px 6px;
}
.choices {
  display: flex;
  gap: 12px;
}
.choices button {
  font: 13px var(--sans);
  color: var(--quiet);
  background: none;
  border: 0;
  border-bottom: 2px solid transparent;
  padding: 3px 0;
  cursor: pointer;
}
.choices button[aria-checked='true'] {
  color: var(--ink);
  font-weight: 600;
  border-bottom-color: var(--accent);
}
</style>
