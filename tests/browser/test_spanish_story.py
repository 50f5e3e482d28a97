"""One who reads Spanish: from nothing to a pit card with decimal commas; then a friend at the same machine in English."""

import re

from django.test import override_settings
from playwright.sync_api import expect

from lynxwort.demo.scenario import course_bytes
from lynxwort.web.bikes.models import Bike, Revision
from lynxwort.web.garages.models import User

ENGLISH = re.compile(r"\b(?:the|of|and|with|is|are|for|not|from|this|that)\b", re.IGNORECASE)


def speaks_spanish(w):
    """No English on the page, no number with a point, nothing beyond its edge, nothing that a reader of pages stumbles at."""
    assert w.page.evaluate("document.documentElement.lang") == "es"
    said = w.page.locator("body").inner_text()
    assert not ENGLISH.findall(said), (w.page.url, ENGLISH.findall(said))
    assert not re.findall(r"(?<![\d.x×])\d+\.\d+(?![\d.])", said), w.page.url
    w.no_sideways_scroll()
    w.axe()


@override_settings(DEMO=False)
def test_from_nothing_to_a_pit_card_in_spanish(watch, tmp_path):
    w = watch(language="es-ES")
    w.expect.add(422)
    page = w.page
    w.go("/")
    speaks_spanish(w)
    page.get_by_role("link", name="Hacer la primera cuenta").click()
    page.get_by_label("Tu nombre").fill("Nerea")
    page.get_by_label("Contraseña").fill("manos frías con grasa")
    page.get_by_role("button", name="Abrir el garaje").click()
    page.get_by_role("link", name="Añadir una moto").click()
    speaks_spanish(w)
    page.locator("li.kind", has_text="250 cuatro tiempos").get_by_role("link", name="chiclés").click()
    page.get_by_label("Cómo llamas a la moto").fill("Cierzo 250")
    facts = {
        "Piñón / corona": "13/50",
        "Chiclé de alta": "165",
        "En el depósito caben": "bastante",
        "Muelle de horquilla": "4,4",
        "Muelle del amortiguador": "5,4 kgf/mm",
    }
    for label, value in facts.items():
        page.get_by_label(label).fill(value)
    page.get_by_role("button", name="Ponerla en pie").click()
    # what was wrong is said in Spanish, and nothing is lost
    expect(page.get_by_text("No es un número. Escríbelo como")).to_be_visible()
    expect(page.get_by_label("Muelle del amortiguador")).to_have_value("5,4 kgf/mm")
    speaks_spanish(w)
    page.get_by_label("En el depósito caben").fill("8,5 litros")
    page.get_by_role("button", name="Ponerla en pie").click()
    expect(page.get_by_role("heading", level=1)).to_have_text("Cierzo 250")
    setup = Bike.objects.get().setups.get().draft.values
    assert round(setup["tank_capacity_m3"], 9) == 0.0085
    assert round(setup["fork_spring_rate_n_per_m"]) == 4400
    assert round(setup["shock_spring_rate_n_per_m"]) == 52956
    speaks_spanish(w)

    page.get_by_role("link", name="Su carrera", exact=True).click()
    (tmp_path / "course.gpx").write_bytes(course_bytes())
    page.get_by_label("Archivo de recorrido").set_input_files(tmp_path / "course.gpx")
    day = {"Carrera": "Cuesta del Cierzo", "Salida, hora local": "2027-05-02T09:00", "Vueltas": "2"}
    day |= {"Hora más fría": "6,5", "Hora más calurosa": "18,5 °C", "Nombre del piloto": "Nerea"}
    day |= {"Peso con el equipo puesto": "1.088"}
    for label, value in day.items():
        page.get_by_label(label, exact=label in ("Carrera", "Vueltas")).fill(value)
    page.get_by_role("button", name="Guardar la carrera, y al banco").click()
    # a point with three figures is a thousand here: too heavy for a rider, and said so
    expect(page.get_by_label("Peso con el equipo puesto")).to_have_value("1.088")
    page.get_by_label("Peso con el equipo puesto").fill("72,5 kilos")
    page.get_by_label("Archivo de recorrido").set_input_files(tmp_path / "course.gpx")
    page.get_by_role("button", name="Guardar la carrera, y al banco").click()
    expect(page.locator("#main h1")).to_contain_text("83,1 km en 2 vueltas")
    base = page.url.split("/purpose")[0].removeprefix(w.base)
    for station in ("purpose", "baseline", "chassis", "damping", "fuelling", "drive", "range", "kit"):
        w.go(f"{base}/{station}/")
        speaks_spanish(w)

    # a tooth more, what it changes, and the exact value of a tyre with a comma
    w.go(f"{base}/drive/")
    page.locator("#more-rear_sprocket_teeth").click()
    expect(page.get_by_text("1 en borrador")).to_be_visible()
    w.go(f"{base}/chassis/")
    page.locator("#now-shock_preload_m").click()
    typed = page.locator("#typed-shock_preload_m")
    typed.fill("11,5")
    typed.press("Enter")
    expect(page.locator("[data-tunable-value='shock_preload_m']")).to_contain_text("11,5")
    page.locator("summary", has_text="Guardar").click()
    page.get_by_label("¿Por qué este cambio?").fill("subidas lentas")
    page.get_by_role("button", name="Guardarlo").click()
    expect(page.get_by_text("frente al N.º 2")).to_be_visible()
    assert Revision.objects.first().reason == "subidas lentas"
    page.locator(".fig").first.click()
    expect(page.locator("#why")).to_contain_text("Fuente:")
    speaks_spanish(w)
    page.locator("#why button.close").click()

    w.go(f"{base}/card/")
    expect(page.locator(".card-sheet, .pit-card, main").first).to_contain_text("domingo")
    speaks_spanish(w)
    page.set_viewport_size({"width": 390, "height": 844})
    for path in (f"{base}/card/", f"{base}/range/crew/", f"{base}/drive/", "/", "/settings/"):
        w.go(path)
        speaks_spanish(w)

    # by person: the same browser, and English is chosen
    page.get_by_label("Idioma").select_option("en")
    page.get_by_role("button", name="Guardar", exact=True).click()
    expect(page.get_by_text("Kept.")).to_be_visible()
    w.go(f"{base}/drive/")
    expect(page.locator("html")).to_have_attribute("lang", "en")
    assert User.objects.get().language == "en"
