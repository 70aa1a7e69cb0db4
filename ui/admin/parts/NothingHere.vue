<template>
  <main class="p-6">
    <h1 class="mb-2 text-[24px]">There is nothing at this address</h1>
    <p><RouterLink class="link" to="/">Go to the desk</RouterLink></p>
  </main>
</template>
