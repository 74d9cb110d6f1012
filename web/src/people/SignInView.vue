<script setup lang="ts">
import { ref } from 'vue'
import { answerOf, api } from '@/api/client'
import { useAttempt } from '@/api/useAttempt'
import { useSession } from './session'

const session = useSession()
const name = ref('')
const password = ref('')
const fullName = ref('')
const code = ref('')
const { attempt, busy, problem } = useAttempt()

function signIn() {
  return attempt(() => session.signIn(name.value, password.value))
}

function makeFirst() {
  return attempt(async () => {
    await answerOf(
      api.POST('/api/first-administrator', {
        body: {
          code: code.value,
          name: name.value,
          fullName: fullName.value,
          password: password.value,
        },
      }),
    )
    await session.signIn(name.value, password.value)
  })
}

function asDemo(demoName: string) {
  return attempt(() => session.signIn(demoName, 'demo'))
}
</script>

<template>
  <main class="sign-in">
    <section>
      <h1>
        <svg viewBox="0 0 24 24" width="30" height="30" aria-hidden="true">
          <path d="M3 20h4v-4h4v-4h4V8h4V4" fill="none" stroke="var(--accent)" stroke-width="2.4" />
        </svg>
        Hard Proof
      </h1>
      <p class="lead">A green backup job is a claim. Here it is turned into proof.</p>

      <form v-if="session.session?.needsFirstAdministrator" @submit.prevent="makeFirst">
        <h2>Make the first administrator</h2>
        <p class="small quiet">
          The one-time code stands on the console of the process that runs Hard Proof.
        </p>
        <v-text-field v-model="code" label="One-time code" autocomplete="off" autofocus />
        <v-text-field v-model="name" label="Sign-in name" autocomplete="username" />
        <v-text-field v-model="fullName" label="Full name" autocomplete="name" />
        <v-text-field
          v-model="password"
          label="Password, at least 12 characters"
          type="password"
          autocomplete="new-password"
        />
        <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
        <v-btn
          type="submit"
          color="primary"
          variant="flat"
          :loading="busy"
          :disabled="!code || !name || !password"
          >Make the administrator and sign in</v-btn
        >
      </form>

      <form v-else @submit.prevent="signIn">
        <h2>Sign in</h2>
        <v-text-field v-model="name" label="Name" autocomplete="username" autofocus />
        <v-text-field
          v-model="password"
          label="Password"
          type="password"
          autocomplete="current-password"
        />
        <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
        <v-btn
          type="submit"
          color="primary"
          variant="flat"
          :loading="busy"
          :disabled="!name || !password"
          >Sign in</v-btn
        >
      </form>

      <div v-if="session.session?.demoPeople.length" class="demo">
        <h2>This is the demo estate of Tarnwick Ferries</h2>
        <p class="small quiet">Everything and everybody in it is made up. Look around as</p>
        <ul>
          <li v-for="p in session.session.demoPeople" :key="p.name">
            <button type="button" class="link" @click="asDemo(p.name)">{{ p.fullName }}</button>
            <span class="quiet">, {{ p.role }}</span>
          </li>
        </ul>
        <p class="small quiet">Each one’s password is “demo”, and the name is the role.</p>
      </div>
    </section>
  </main>
</template>

<style scoped>
.sign-in {
  min-height: 100dvh;
  display: grid;
  place-items: center;
  padding: 30px;
}
section {
  width: min(460px, 100%);
}
h1 {
  display: flex;
  align-items: center;
  gap: 12px;
  font-size: 26px;
}
.lead {
  margin: 10px 0 26px;
}
form,
.demo {
  display: grid;
  gap: 12px;
  border-top: 1px solid var(--rule-strong);
  padding: 16px 0;
  justify-items: start;
}
form > * {
  width: 100%;
}
form .v-btn {
  width: auto;
  justify-self: start;
}
.demo {
  gap: 4px;
  border-top-color: var(--rule);
}
.demo ul {
  margin: 4px 0 6px 18px;
}
p {
  margin: 0;
}
.wrong {
  color: var(--disproven);
}
</style>
