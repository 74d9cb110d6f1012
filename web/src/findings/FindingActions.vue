<script setup lang="ts">
import { computed, ref } from 'vue'
import type { FindingRow } from '@/api/types'
import { useAsAt } from '@/frame/useAsAt'
import { useMay } from '@/people/useMay'
import { useSession } from '@/people/session'
import CoverForm from './CoverForm.vue'
import ExceptForm from './ExceptForm.vue'
import HandOverForm from './HandOverForm.vue'
import LookForm from './LookForm.vue'

/** What can be done about findings: those that are marked, else the one that is open. */
const props = defineProps<{
  findings: FindingRow[]
  /** How many are marked; none when the open one is meant. */
  marked: number
}>()
const emit = defineEmits<{ unmark: []; done: [] }>()

const session = useSession()
const { whyNotWork } = useMay()
const { lookingBack } = useAsAt()
const acting = ref<'cover' | 'except' | 'hand' | 'look'>()
const said = ref('')

const resources = computed(() => [
  ...new Set(props.findings.filter((f) => f.type === 'resource').map((f) => f.subject)),
])
const mayAct = computed(() => !lookingBack.value && props.findings.length > 0)
const mayExcept = computed(() => mayAct.value && resources.value.length > 0)
const mayCover = computed(() => mayExcept.value && session.mayWork)

function done(sentence: string) {
  acting.value = undefined
  said.value = sentence
  emit('done')
}

defineExpose({
  acting,
  cover: () => mayCover.value && (acting.value = 'cover'),
  except: () => mayExcept.value && (acting.value = 'except'),
})
</script>

<template>
  <div class="acts" :class="{ on: marked }">
    <span class="small">
      <template v-if="marked">{{ marked }} marked</template>
      <template v-else-if="findings[0]">{{ findings[0].title }}</template>
      <template v-else>Mark with x or the box, or open one, to act on it.</template>
    </span>
    <v-btn :disabled="!mayCover" :title="whyNotWork || 'c'" @click="acting = 'cover'"
      >Put under a policy</v-btn
    >
    <v-btn :disabled="!mayExcept" title="e" @click="acting = 'except'">Except</v-btn>
    <v-btn :disabled="!mayAct" @click="acting = 'hand'">Hand over</v-btn>
    <v-btn :disabled="!mayAct" @click="acting = 'look'">Looked at</v-btn>
    <button v-if="marked" class="link small" @click="$emit('unmark')">unmark</button>
    <span v-if="said" class="small" role="status">{{ said }}</span>
    <CoverForm
      v-if="acting === 'cover'"
      :resources="resources"
      @close="acting = undefined"
      @done="done"
    />
    <ExceptForm
      v-if="acting === 'except'"
      :findings="findings"
      @close="acting = undefined"
      @done="done"
    />
    <HandOverForm
      v-if="acting === 'hand'"
      :findings="findings"
      @close="acting = undefined"
      @done="done"
    />
    <LookForm
      v-if="acting === 'look'"
      :findings="findings"
      @close="acting = undefined"
      @done="done"
    />
  </div>
</template>

<style scoped>
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 8px;
  align-items: center;
  padding: 6px 20px;
  border-top: 1px solid var(--rule);
}
.acts.on {
  background: var(--selected);
}
.acts > .small:first-child {
  margin-right: 8px;
}
</style>
