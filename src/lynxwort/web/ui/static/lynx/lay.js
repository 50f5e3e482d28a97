// What is answered is laid over what stands, node by node: only what differs is touched, so that the browser styles, lays
// out and paints only that; focus, typed text, open groups and what is bound to a node stay.
"use strict";

(() => {
  const FIELDS = new Set(["INPUT", "TEXTAREA", "SELECT"]);
  const isOwn = (node) => node.nodeType === 1 && node.hasAttribute("data-own");
  const alike = (a, b) => a.nodeType === b.nodeType && a.nodeName === b.nodeName && (a.id || "") === (b.id || "");

  function classes(old, now) {
    // htmx marks what is under way; Alpine opens the rail and the ledger
    const stays = [...old.classList].filter((c) => c.startsWith("htmx-") || (c === "open" && old.hasAttribute("x-bind:class")));
    const wanted = [now.getAttribute("class"), ...stays].filter(Boolean).join(" ");
    if ((old.getAttribute("class") || "") === wanted) return;
    if (wanted) old.setAttribute("class", wanted); else old.removeAttribute("class");
  }

  // whether htmx must look at it again
  function attributes(old, now) {
    const details = old.nodeName === "DETAILS";
    // who opened or closed it is the person; the server may open, and says so once
    if (details && now.hasAttribute("data-open") && !old.hasAttribute("data-open")) old.open = true;
    classes(old, now);
    let asks = false;
    for (const { name, value } of now.attributes) {
      if (name === "class" || (details && name === "open") || old.getAttribute(name) === value) continue;
      old.setAttribute(name, value);
      if (name.startsWith("hx-")) asks = true;
      if (name === "value" && FIELDS.has(old.nodeName) && old !== document.activeElement) old.value = value;
    }
    for (const { name } of [...old.attributes]) {
      if (name === "class" || (details && name === "open") || now.hasAttribute(name)) continue;
      old.removeAttribute(name);
      if (name.startsWith("hx-")) asks = true;
    }
    return asks;
  }

  // where the counterpart of a new node stands among the next few of the old ones; null: it is new
  function counterpart(a, b) {
    if (!a || alike(a, b)) return a;
    if (b.nodeType !== 1) return null;
    let x = a.nextSibling;
    for (let hops = 0; x && hops < 8 && !alike(x, b); hops++) x = x.nextSibling;
    if (!x || !alike(x, b)) return null;
    // what stands between has gone, unless it comes later
    for (let y = b.nextSibling, hops = 0; y && hops < 8; y = y.nextSibling, hops++) if (a.nodeType === 1 && alike(a, y)) return null;
    return x;
  }

  function lay(old, now, told) {
    if (now.nodeType !== 1) {
      if (old.data !== now.data) old.data = now.data;
      return;
    }
    // the page has it: see templatetags/same.py
    if (now.hasAttribute("data-same") || old.isEqualNode(now)) return;
    // a script draws there
    if (old.hasAttribute("data-drawn") && now.hasAttribute("data-drawn")) return;
    if (attributes(old, now)) told.push(old);
    let a = old.firstChild;
    let b = now.firstChild;
    while (b) {
      const next = b.nextSibling;
      while (a && isOwn(a) && !alike(a, b)) a = a.nextSibling;
      const found = counterpart(a, b);
      if (found) {
        while (a !== found) { const gone = a; a = a.nextSibling; if (!isOwn(gone)) gone.remove(); }
        a = found.nextSibling;
        lay(found, b, told);
      } else {
        old.insertBefore(b, a);
        if (b.nodeType === 1) told.push(b);
      }
      b = next;
    }
    while (a) { const gone = a; a = a.nextSibling; if (!isOwn(gone)) gone.remove(); }
  }

  // htmx looks upwards from what asked for how its answer is swapped in; a row that was replaced meanwhile has nothing above it
  document.addEventListener("htmx:beforeSwap", ({ detail }) => {
    const { elt } = detail.requestConfig;
    if (elt.isConnected || !["bench", "notches"].includes(detail.target.id)) return;
    elt.setAttribute("hx-ext", "lay");
    detail.swapOverride = "lay";
  });

  // gives what htmx must look at
  function over(target, now) {
    const told = [];
    const row = document.activeElement.closest(".notch-row");
    lay(target, now, told);
    // the notch that was pressed may be the last one
    if (row && row.isConnected && !row.contains(document.activeElement)) row.querySelector("summary").focus();
    return told;
  }

  htmx.defineExtension("lay", {
    isInlineSwap: (style) => style === "lay",
    handleSwap(style, target, fragment) {
      const now = style === "lay" && fragment.querySelector(`#${target.id}`);
      return now ? over(target, now) : false;
    },
  });

  // lays what no request of htmx brought, and tells of it as htmx does
  window.layOver = (target, now) => {
    over(target, now).forEach((e) => htmx.process(e));
    const detail = { target, elt: target, aheadOfAnswer: true };
    ["htmx:afterSwap", "htmx:afterSettle"].forEach((name) => target.dispatchEvent(new CustomEvent(name, { bubbles: true, detail })));
  };
})();
