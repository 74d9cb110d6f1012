<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { answerOf, api } from '@/api/client'
import { useAttempt } from '@/api/useAttempt'
import { useSession } from './session'

/** Where a link leads that sets a password. The token stands behind the #, which is sent to nobody. */
const session = useSession()
const router = useRouter()
const { attempt, busy, problem } = useAttempt()
const token = location.hash.replace('#', '')
const name = ref('')
const password = ref('')
const again = ref('')
const ready = computed(() => password.value !== '' && password.value === again.value)

onMounted(() =>
  attempt(async () => {
    name.value = (await answerOf(api.POST('/api/password-links/look', { body: { token } }))).name
  }),
)

async function set() {
  await attempt(async () => {
    await answerOf(
      api.POST('/api/password-links/use', { body: { token, password: password.value } }),
    )
    await session.signIn(name.value, password.value)
    await router.replace('/board')
  })
}
</script>

<template>
  <main class="set">
    <form @submit.prevent="set">
      <h1>Set your password</h1>
      <p v-if="name">
        You sign in as <b class="mono">{{ name }}</b>. This link works once.
      </p>
      <template v-if="name">
        <v-text-field
          v-model="password"
          label="Password, at least 12 characters"
          type="password"
          autocomplete="new-password"
          autofocus
        />
        <v-text-field
          v-model="again"
          label="Password once more"
          type="password"
          autocomplete="new-password"
        />
      </template>
      <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
      <v-btn
        v-if="name"
        type="submit"
        color="primary"
        variant="flat"
        :loading="busy"
        :disabled="!ready"
        :title="ready ? undefined : 'Type the same password twice'"
        >Set it and sign in</v-btn
      >
      <p v-else-if="busy" class="quiet">Looking at the link …</p>
    </form>
  </main>
</template>

<style scoped>
.set {
  min-height: 100dvh;
  display: grid;
  place-items: center;
  padding: 30px;
}
form {
  width: min(460px, 100%);
  display: grid;
  gap: 12px;
}
h1 {
  font-size: 22px;
}
p {
  margin: 0;
}
form .v-btn {
  justify-self: start;
}
.wrong {
  color: var(--disproven);
}
</style>
