import { mount } from 'svelte'
import Shop from './shop.svelte'

mount(Shop, { target: document.getElementById('shop') })
