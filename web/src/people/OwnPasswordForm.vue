<script setup lang="ts">
import { computed, ref } from 'vue'
import { answerOf, api } from '@/api/client'
import { useAttempt } from '@/api/useAttempt'
import FormDialog from '@/frame/FormDialog.vue'

/** Changes one's own password; other sessions of the same person end. */
const emit = defineEmits<{ close: [] }>()
const { attempt, busy, problem } = useAttempt()
const old = ref('')
const fresh = ref('')
const again = ref('')
const done = ref(false)
const ready = computed(() => old.value !== '' && fresh.value !== '' && fresh.value === again.value)

async function change() {
  await attempt(async () => {
    await answerOf(
      api.PUT('/api/own-password', { body: { old: old.value, password: fresh.value } }),
    )
    done.value = true
  })
}
</script>

<template>
  <v-dialog v-if="done" :model-value="true" @update:model-value="emit('close')">
    <v-card title="The password is changed">
      <v-card-text>Wherever else you were signed in, you are not any more.</v-card-text>
      <v-card-actions><v-btn @click="emit('close')">Close</v-btn></v-card-actions>
    </v-card>
  </v-dialog>
  <FormDialog
    v-else
    title="Change your password"
    action="Change it"
    :ready="ready"
    :busy="busy"
    :problem="problem"
    :hint="fresh === again ? 'Fill in all three first' : 'The new password is not the same twice'"
    @close="emit('close')"
    @submit="change"
  >
    <v-text-field
      v-model="old"
      label="Old password"
      type="password"
      autocomplete="current-password"
      autofocus
    />
    <v-text-field
      v-model="fresh"
      label="New password, at least 12 characters"
      type="password"
      autocomplete="new-password"
    />
    <v-text-field
      v-model="again"
      label="New password once more"
      type="password"
      autocomplete="new-password"
    />
  </FormDialog>
</template>
