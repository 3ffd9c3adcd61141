<script setup lang="ts">
import { ref, watch } from 'vue'
import PasswordField from './PasswordField.vue'
import type { Member, Schemas } from '../api/client'

const props = defineProps<{ member: Member; roles: readonly { id: Member['role']; words: string }[]; busy: boolean }>()
const emit = defineEmits<{ change: [change: Schemas['MemberChange']] }>()

const role = ref(props.member.role)
const setting = ref(false) // a password is being set
const password = ref('')
watch(
  () => props.member,
  (m) => {
    role.value = m.role
    setting.value = false
    password.value = ''
  },
)
</script>

<template>
  <li>
    <strong>{{ member.name }}</strong>
    <select v-model="role" :aria-label="`Role of ${member.name}`">
      <option v-for="r in roles" :key="r.id" :value="r.id">{{ r.words }}</option>
    </select>
    <button v-if="role !== member.role" class="press lead" :disabled="busy" @click="emit('change', { role })">Change role</button>
    <span class="does">
      <button class="press" :aria-expanded="setting" @click="setting = !setting">New password</button>
      <button class="press" :disabled="busy" @click="emit('change', { closed: !member.closed })">
        {{ member.closed ? 'Open again' : 'Close' }}
      </button>
    </span>
    <form v-if="setting" @submit.prevent="emit('change', { password })">
      <label class="field"
        >New password for {{ member.name }}, 15 characters or more; tell it to them yourself
        <PasswordField :id="`password-${member.id}`" v-model="password" kind="new-password" :minlength="15"
      /></label>
      <p class="small soft">
        A new password signs {{ member.name }} out everywhere. Devices in the woods keep what they hold until {{ member.name }} signs in
        there again.
      </p>
      <button class="press lead" type="submit" :disabled="busy">Set</button>
    </form>
    <span v-if="member.closed" class="soft small">closed: may not sign in; what they entered stays</span>
  </li>
</template>

<style scoped>
li {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem 0.75rem;
  align-items: center;
  padding: 0.5rem 1rem;
}

strong {
  min-width: 10rem;
}

.does {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}

select {
  min-height: var(--pt-press);
  max-width: 100%;
  border: 1px solid var(--pt-line);
  border-radius: 8px;
  background: var(--pt-snow);
  padding: 0 0.5rem;
}

form {
  display: grid;
  gap: 0.5rem;
  flex-basis: 100%;
  max-width: 32rem;
}
</style>
