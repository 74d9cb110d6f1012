<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { call, Problem, type PolicyTrial, type PolicyView } from '@/api/client'
import { useServerData } from '@/api/useServerData'
import FormDialog from '@/frame/FormDialog.vue'
import { count, words } from '@/wording/format'

/** Puts resources under a policy, and says before which points will be there by when. */
const props = defineProps<{ resources: string[] }>()
const emit = defineEmits<{ close: []; done: [sentence: string] }>()

const { data: policies } = useServerData<PolicyView[]>(() => 'policies')
const policy = ref('')
const reason = ref('')
const trial = ref<PolicyTrial>()
const problem = ref('')
const busy = ref(false)

const choices = computed(() =>
  (policies.value ?? []).map((p) => ({ value: p.key, title: `${p.name} (${p.inScope} in scope)` })),
)

watch(policy, async (key) => {
  trial.value = undefined
  problem.value = ''
  if (!key) return
  try {
    const answer = await call<PolicyTrial>('POST', 'policy-trials', {
      policy: key,
      resources: props.resources,
    })
    if (policy.value === key) trial.value = answer
  } catch (e) {
    problem.value = e instanceof Problem ? e.message : String(e)
  }
})

async function add() {
  busy.value = true
  problem.value = ''
  try {
    await call('POST', 'policy-additions', {
      policy: policy.value,
      resources: props.resources,
      reason: reason.value,
    })
    const name = policies.value?.find((p) => p.key === policy.value)?.name
    emit(
      'done',
      `${count(props.resources.length, 'resource is', 'resources are')} under ${name} now.`,
    )
  } catch (e) {
    problem.value = e instanceof Problem ? e.message : String(e)
  } finally {
    busy.value = false
  }
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
