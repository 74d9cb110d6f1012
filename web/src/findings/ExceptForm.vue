<script setup lang="ts">
import { now as clockNow } from '@/wording/clock'
import { computed, ref } from 'vue'
import { answerOf, api } from '@/api/client'
import type { FindingRow } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import FormDialog from '@/frame/FormDialog.vue'
import { count } from '@/wording/format'

/** Proposes an exception for what was found; another person decides. */
const props = defineProps<{ findings: FindingRow[] }>()
const emit = defineEmits<{ close: []; done: [sentence: string] }>()

const { attempt, busy, problem } = useAttempt()
const ofResources = computed(() => props.findings.filter((f) => f.type === 'resource'))
const criteria = computed(() => [
  ...new Map(ofResources.value.map((f) => [f.code, `${f.group}: ${f.title}`])),
])
const LEAVE_OUT = ''
const criterion = ref(criteria.value[0]?.[0] ?? LEAVE_OUT)
const choices = computed(() => [
  ...criteria.value.map(([value, title]) => ({ value, title })),
  { value: LEAVE_OUT, title: 'leave out of judgement altogether (test resources)' },
])
/** Whatever is marked: an exception to one criterion is for those that don't meet that one. */
const resources = computed(() => [
  ...new Set(
    ofResources.value
      .filter((f) => !criterion.value || f.code === criterion.value)
      .map((f) => f.subject),
  ),
])
const reason = ref('')
const until = ref(new Date(clockNow() + 90 * 86_400_000).toISOString().slice(0, 10))

async function propose() {
  await attempt(async () => {
    const answer = await answerOf(
      api.POST('/api/exceptions', {
        body: {
          selector: JSON.stringify({ all: [{ field: 'key', in: resources.value }] }),
          criterion: criterion.value || undefined,
          reason: reason.value,
          until: `${until.value}T00:00:00Z`,
        },
      }),
    )
    emit(
      'done',
      `Proposed for ${count(answer.resources, 'resource', 'resources')}; an approver decides under Criteria, Exceptions.`,
    )
  })
}
</script>

<template>
  <FormDialog
    title="Propose an exception"
    action="Propose"
    :ready="!!reason.trim() && !!until"
    :busy="busy"
    :problem="problem"
    hint="Say why, and until when"
    @close="emit('close')"
    @submit="propose"
  >
    <p class="small mono">
      {{ resources.slice(0, 12).join(', ') }}<template v-if="resources.length > 12"> …</template>
    </p>
    <v-select v-model="criterion" :items="choices" label="What is accepted" />
    <v-textarea v-model="reason" label="Why" rows="2" maxlength="1000" />
    <v-text-field v-model="until" type="date" label="Until (UTC, midnight)" />
    <template #below>
      <p class="small quiet">
        Another person decides. An accepted finding keeps its arithmetic, and comes back at the end.
      </p>
    </template>
  </FormDialog>
</template>
