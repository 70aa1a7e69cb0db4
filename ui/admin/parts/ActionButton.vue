<script setup lang="ts">
/** A button for a deed, the main one of its place in amber. In a form, `type="submit"` sends it. */
withDefaults(defineProps<{ main?: boolean; type?: 'button' | 'submit' }>(), { type: 'button' })
</script>

<template>
  <button :type="type" class="button" :class="{ 'button-main': main }"><slot /></button>
</template>
