<script setup lang="ts">
import { ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { answerOf, api } from '@/api/client'
import type { SelectorMatches } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { useAsAt } from './useAsAt'
import { useWhich } from './useWhich'
import FormDialog from './FormDialog.vue'
import SelectorBuilder from './SelectorBuilder.vue'

/** Narrows a screen to the resources that a selector chooses; it stands in the address as `which`. */
const route = useRoute()
const router = useRouter()
const { when } = useAsAt()
const which = useWhich()
const matches = ref<SelectorMatches>()
const { latest, forget, problem } = useAttempt()
const open = ref(false)
const drawn = ref('')

watch(
  [which, when],
  async ([selector, at]) => {
    matches.value = undefined
    forget()
    if (!selector) return
    await latest(
      () => answerOf(api.POST('/api/selector-matches', { body: { selector, ...at } })),
      (answer) => (matches.value = answer),
    )
  },
  { immediate: true },
)

function build() {
  drawn.value = problem.value ? '' : which.value
  open.value = true
}

function set(selector: string) {
  open.value = false
  void router.replace({ query: { ...route.query, which: selector || undefined } })
}
</script>

<template>
  <span class="which">
    <button class="chip" :aria-pressed="!!which" @click="build">
      <template v-if="matches">only {{ matches.words }}</template>
      <template v-else-if="problem">a selector that can’t be read</template>
      <template v-else>which resources</template>
    </button>
    <button v-if="which" class="link" aria-label="All resources again" @click="set('')">×</button>
  </span>
  <FormDialog
    v-if="open"
    title="Which resources"
    action="Show these"
    ready
    :busy="false"
    :problem="problem"
    @close="open = false"
    @submit="set(drawn)"
  >
    <SelectorBuilder v-model="drawn" label="Only resources where" />
  </FormDialog>
</template>

<style scoped>
.which {
  display: inline-flex;
  gap: 6px;
  align-items: center;
  min-width: 0;
}
.chip {
  max-width: 260px;
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
