<script lang="ts">
import { defineComponent } from 'vue';

export default defineComponent({
  name: 'GlazeSearch',
  props: { glazes: { type: Array as () => string[], required: true } },
  data: () => ({ text: '' }),
  computed: {
    found(): string[] {
      return this.glazes.filter((glaze) => glaze.toLowerCase().includes(this.text.toLowerCase()));
    },
  },
});
</script>

<template>
  <form role="search" @submit.prevent>
    <label>
      Glaze
      <input v-model="text" type="text" class="search__input" />
    </label>
    <ul v-if="found.length">
      <li v-for="glaze in found" :key="glaze">{{ glaze }}</li>
    </ul>
    <p v-else>No glaze of that name</p>
  </form>
</template>
