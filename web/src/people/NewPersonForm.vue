<script setup lang="ts">
import { computed, ref } from 'vue'
import { answerOf, api } from '@/api/client'
import type { PasswordLink, Role } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import FormDialog from '@/frame/FormDialog.vue'
import { roles } from './roles'

/** Adds somebody, who then sets a password by a link. */
const emit = defineEmits<{ close: []; added: [PasswordLink] }>()
const { attempt, busy, problem } = useAttempt()
const name = ref('')
const fullName = ref('')
const role = ref<Role>('auditor')
const ready = computed(() => name.value.trim() !== '')

async function add() {
  const link = await attempt(() =>
    answerOf(
      api.POST('/api/people', {
        body: {
          name: name.value.trim(),
          fullName: fullName.value,
          role: role.value,
        },
      }),
    ),
  )
  if (link) emit('added', link)
}
</script>

<template>
  <FormDialog
    title="Add somebody"
    action="Add and make the link"
    :ready="ready"
    :busy="busy"
    :problem="problem"
    hint="Give a sign-in name first"
    @close="emit('close')"
    @submit="add"
  >
    <v-text-field v-model="name" label="Sign-in name" autocomplete="off" autofocus />
    <v-text-field v-model="fullName" label="Full name" autocomplete="off" />
    <v-select
      v-model="role"
      label="Role"
      :items="roles.map((r) => ({ title: r.code, value: r.code }))"
    />
    <p class="small quiet">{{ roles.find((r) => r.code === role)?.may }}</p>
  </FormDialog>
</template>
