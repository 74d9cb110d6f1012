<script setup lang="ts">
import { ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { call, Problem, type SelectorMatches } from '@/api/client'
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
const problem = ref('')
const open = ref(false)
const drawn = ref('')

watch(
  [which, when],
  async ([selector, at]) => {
    matches.value = undefined
    problem.value = ''
    if (!selector) return
    try {
      const answer = await call<SelectorMatches>('POST', 'selector-matches', {
        selector,
        ...at,
      })
      if (which.value === selector) matches.value = answer
    } catch (e) {
      problem.value = e instanceof Problem ? e.message : String(e)
    }
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
