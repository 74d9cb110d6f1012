<script setup lang="ts">
import { computed, ref } from 'vue'
import { answerOf, api } from '@/api/client'
import type { KindView, WatchDraft, WatchView } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { zone } from '@/wording/zone'
import FormDialog from '@/frame/FormDialog.vue'
import SelectorBuilder from '@/frame/SelectorBuilder.vue'

/** Who is told of what, how, how soon, how often again, and when not. */
const props = defineProps<{ start?: WatchView; kinds: KindView[] }>()
const emit = defineEmits<{ close: []; saved: [] }>()

const draft = ref<WatchDraft>({
  name: '',
  how: 'mail',
  recipient: '',
  afterMinutes: 0,
  active: true,
  ...props.start?.watch,
  kinds: [...(props.start?.watch.kinds ?? [])],
  selector: props.start?.watch.selector ?? '',
  zone: props.start?.watch.zone ?? zone(),
})
const HOWS = [
  { value: 'bell', title: 'on the bell' },
  { value: 'mail', title: 'by mail' },
  { value: 'webhook', title: 'by webhook' },
]
const HINTS: Record<string, string> = {
  bell: 'everybody, a role (auditor, operator, approver, administrator), or @ and the name by which one person signs in',
  mail: 'one address, or owner for the owner of the workload',
  webhook: 'https://host/path; the host must be allowed under Engines and sandboxes',
}
const ready = computed(() => !!draft.value.name.trim() && !!draft.value.recipient.trim())
const { attempt, busy, problem } = useAttempt()

const number = (value: unknown) => (value === '' || value == null ? undefined : Number(value))

const save = () =>
  attempt(async () => {
    const body: WatchDraft = {
      ...draft.value,
      afterMinutes: number(draft.value.afterMinutes) ?? 0,
      repeatMinutes: number(draft.value.repeatMinutes),
      quietFrom: draft.value.quietFrom || undefined,
      quietUntil: draft.value.quietUntil || undefined,
      zone: draft.value.quietFrom ? draft.value.zone : undefined,
      selector: draft.value.selector || undefined,
    }
    if (props.start) {
      const params = { path: { id: props.start.id } }
      await answerOf(api.PUT('/api/watches/{id}', { params, body }))
    } else {
      await answerOf(api.POST('/api/watches', { body }))
    }
    emit('saved')
    emit('close')
  })
</script>

<template>
  <FormDialog
    :title="start ? 'Change a watch' : 'Add a watch'"
    action="Keep it"
    :ready="ready"
    hint="It needs a name and somebody to tell."
    :busy="busy"
    :problem="problem"
    @close="emit('close')"
    @submit="save"
  >
    <v-text-field v-model="draft.name" label="Name" maxlength="200" autofocus />
    <v-select
      v-model="draft.kinds"
      :items="kinds"
      item-value="kind"
      item-title="words"
      label="Of what (nothing chosen: everything)"
      multiple
      chips
    />
    <SelectorBuilder
      :model-value="draft.selector ?? ''"
      @update:model-value="draft.selector = $event"
    />
    <v-select v-model="draft.how" :items="HOWS" label="How" />
    <div>
      <v-text-field v-model="draft.recipient" label="Whom" maxlength="300" />
      <p class="small quiet">{{ HINTS[draft.how] }}</p>
    </div>
    <v-text-field
      v-model="draft.afterMinutes"
      type="number"
      min="0"
      label="How soon, in minutes after it opens"
    />
    <v-text-field
      v-model="draft.repeatMinutes"
      type="number"
      min="5"
      label="How often again, in minutes (empty: once)"
    />
    <div class="row">
      <v-text-field v-model="draft.quietFrom" type="time" label="Nothing from" />
      <v-text-field v-model="draft.quietUntil" type="time" label="until" />
      <v-text-field v-model="draft.zone" label="in the zone" />
    </div>
    <v-checkbox v-model="draft.active" label="On" hide-details />
  </FormDialog>
</template>

<style scoped>
p {
  margin: 2px 0 0;
}
</style>
