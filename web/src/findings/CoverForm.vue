<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { answerOf, api } from '@/api/client'
import type { PolicyTrial } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { useServerData } from '@/api/useServerData'
import FormDialog from '@/frame/FormDialog.vue'
import { count, words } from '@/wording/format'

/** Puts resources under a policy, and says before which points will be there by when. */
const props = defineProps<{ resources: string[] }>()
const emit = defineEmits<{ close: []; done: [sentence: string] }>()

const { data: policies } = useServerData('/api/policies')
const policy = ref('')
const reason = ref('')
const trial = ref<PolicyTrial>()
const trying = useAttempt()
const { attempt, busy, problem: adding } = useAttempt()
const problem = computed(() => adding.value || trying.problem.value)

const choices = computed(() =>
  (policies.value ?? []).map((p) => ({ value: p.key, title: `${p.name} (${p.inScope} in scope)` })),
)

watch(policy, async (key) => {
  trial.value = undefined
  adding.value = ''
  trying.forget()
  if (!key) return
  const body = { policy: key, resources: props.resources }
  await trying.latest(
    () => answerOf(api.POST('/api/policy-trials', { body })),
    (answer) => (trial.value = answer),
  )
})

async function add() {
  await attempt(async () => {
    await answerOf(
      api.POST('/api/policy-additions', {
        body: {
          policy: policy.value,
          resources: props.resources,
          reason: reason.value,
        },
      }),
    )
    const name = policies.value?.find((p) => p.key === policy.value)?.name
    emit(
      'done',
      `${count(props.resources.length, 'resource is', 'resources are')} under ${name} now.`,
    )
  })
}
</script>

<template>
  <FormDialog
    :title="`Put ${count(resources.length, 'resource', 'resources')} under a policy`"
    action="Put under it"
    :ready="!!policy && !!reason.trim()"
    :busy="busy"
    :problem="problem"
    hint="Choose a policy and say why"
    @close="emit('close')"
    @submit="add"
  >
    <p class="small mono">
      {{ resources.slice(0, 12).join(', ') }}<template v-if="resources.length > 12"> …</template>
    </p>
    <v-select v-model="policy" :items="choices" label="Policy" />
    <v-text-field v-model="reason" label="Why" maxlength="500" />
    <template #below>
      <div v-if="trial" class="small" role="status">
        <p v-for="p in trial.firstPoints" :key="p">{{ p }}.</p>
        <p v-for="m in trial.differences.moves" :key="m.workload">
          {{ m.name }}: {{ words(m.from ?? 'not there') }} → <b>{{ words(m.to ?? 'gone') }}</b>,
          {{ m.because }}.
        </p>
        <p v-if="!trial.differences.moves.length">
          No verdict moves by this alone; {{ trial.differences.turned }} outcomes turn.
        </p>
      </div>
      <p class="small quiet">
        This says what is meant to protect it. Tell whoever runs the backups: it counts as covered
        when the first point is there.
      </p>
    </template>
  </FormDialog>
</template>
