<template><svg /></template>
