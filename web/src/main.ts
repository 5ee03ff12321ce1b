import { mount } from "svelte";

import App from "./App.svelte";
import "./app.css";
import { bringBack } from "./bench/on-disk";

const target = document.getElementById("app");
if (target === null) throw new Error("index.html has lost its #app");
await bringBack();
mount(App, { target });
