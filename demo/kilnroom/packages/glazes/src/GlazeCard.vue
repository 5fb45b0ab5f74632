<script setup lang="ts">
import { ref } from 'vue';
import ColourChip from './ColourChip.vue';

const props = withDefaults(defineProps<{ name: string; colour: string; stock?: number }>(), { stock: 0 });
const emit = defineEmits<{ order: [name: string] }>();

const open = ref(false);
</script>

<template>
  <article class="glaze">
    <h3 class="glaze__name">{{ props.name }}</h3>
    <ColourChip :colour="props.colour" />
    <button class="glaze__toggle" type="button" :aria-expanded="open" @click="open = !open">Recipe</button>
    <p v-if="open" class="glaze__recipe">Sift twice, dip for three seconds</p>
    <p v-if="props.stock === 0" class="glaze__empty">Out of stock</p>
    <button v-else class="glaze__order" type="button" @click="emit('order', props.name)">Order</button>
  </article>
</template>
