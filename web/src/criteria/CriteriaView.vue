<script setup lang="ts">
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import ExceptionList from '@/policies/ExceptionList.vue'
import PolicyList from '@/policies/PolicyList.vue'
import OwnCriteria from './OwnCriteria.vue'
import StandardMatrix from './StandardMatrix.vue'
import { useStandard } from './useStandard'

/** What people are held to: the standard, criteria of one's own, policies and exceptions. */
const route = useRoute()
const router = useRouter()
const TABS = [
  { key: 'standard', title: 'Standard' },
  { key: 'own', title: 'Of our own' },
  { key: 'policies', title: 'Policies' },
  { key: 'exceptions', title: 'Exceptions' },
] as const
const tab = computed(() => TABS.find((t) => t.key === route.query.part)?.key ?? 'standard')
const standard = useStandard()
</script>

<template>
  <div class="page">
    <div class="tabs" role="tablist" aria-label="Parts">
      <button
        v-for="t in TABS"
        :key="t.key"
        role="tab"
        :aria-selected="tab === t.key"
        @click="
          router.replace({
            query: { ...route.query, part: t.key === 'standard' ? undefined : t.key },
          })
        "
      >
        {{ t.title }}
      </button>
    </div>
    <StandardMatrix v-if="tab === 'standard'" :standard="standard" />
    <OwnCriteria v-else-if="tab === 'own'" :standard="standard" />
    <PolicyList v-else-if="tab === 'policies'" />
    <ExceptionList v-else />
  </div>
</template>

<style scoped>
.tabs {
  display: flex;
  gap: 18px;
  border-bottom: 1px solid var(--rule);
  margin-bottom: 12px;
}
.tabs button {
  font: 14px var(--sans);
  color: var(--quiet);
  background: none;
  border: 0;
  border-bottom: 3px solid transparent;
  padding: 4px 0;
  cursor: pointer;
}
.tabs button[aria-selected='true'] {
  color: var(--ink);
  font-weight: 600;
  border-bottom-color: var(--accent);
}
</style>
