"""Goes through a page in Chromium as a reader does. page_walk.py PAGE"""

import pathlib
import sys

from selenium import webdriver
from selenium.common.exceptions import TimeoutException
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import Select, WebDriverWait

options = webdriver.ChromeOptions()
for argument in ("--headless", "--no-sandbox", "--disable-gpu", "--disable-dev-shm-usage"):
    options.add_argument(argument)
options.binary_location = "/usr/bin/chromium"
driver = webdriver.Chrome(service=webdriver.ChromeService("/usr/bin/chromedriver") if hasattr(webdriver, "ChromeService")
                          else webdriver.chrome.service.Service("/usr/bin/chromedriver"), options=options)


def heading():
    # In one step: the page may draw itself anew between finding the element and reading it.
    return driver.execute_script("return document.querySelector('h1')?.innerText ?? ''")


def expect(words):
    try:
        WebDriverWait(driver, 10).until(lambda _: words in heading())
    except TimeoutException:
        raise AssertionError(f"the heading is {heading()!r}, not {words!r}") from None


def press(*keys):
    for key in keys:
        driver.switch_to.active_element.send_keys(key)


try:
    driver.implicitly_wait(10)  # the page unpacks its data before it shows anything
    driver.get(pathlib.Path(sys.argv[1]).resolve().as_uri())
    expect("1 implementation")
    # Choose, open a case, follow a link, and go back.
    driver.find_element(By.LINK_TEXT, "trailing-comma-taken").click()
    expect("trailing-comma-taken")
    driver.find_element(By.TAG_NAME, "summary").click()
    driver.find_element(By.PARTIAL_LINK_TEXT, "closes.json").click()
    expect("closes.json")
    driver.back()
    expect("trailing-comma-taken")
    driver.find_element(By.LINK_TEXT, "trailing-comma").click()
    expect("trailing-comma")
    driver.find_element(By.LINK_TEXT, "sound").click()
    expect("sound")
    # Show another one beside it, and go back.
    Select(driver.find_element(By.ID, "beside")).select_by_value("trailing-comma-taken")
    expect("sound and trailing-comma-taken")
    apart = driver.find_element(By.ID, "apart").text
    assert "sound: 0 behaviours; trailing-comma-taken: 1 behaviour." in apart, apart
    assert not driver.find_elements(By.CSS_SELECTOR, "#shared")
    driver.back()
    expect("sound")
    # Filter by format: the choice is in the address and stays for a reload.
    driver.find_element(By.LINK_TEXT, "Implementations").click()
    expect("1 implementation")
    driver.find_element(By.CSS_SELECTOR, "#formats button[value=json]").click()
    WebDriverWait(driver, 10).until(lambda d: "format=json" in d.current_url)
    driver.refresh()
    assert driver.find_element(By.CSS_SELECTOR, "button[aria-pressed=true]").text == "JSON"
    # By keyboard alone: the search, then a link by Tab and Enter.
    driver.find_element(By.LINK_TEXT, "Cases").send_keys(Keys.ENTER)
    expect("with a behaviour")
    driver.find_element(By.TAG_NAME, "body").send_keys("/")
    assert driver.switch_to.active_element.get_attribute("id") == "search"
    press("image.json")
    expect("1 case with a behaviour")
    WebDriverWait(driver, 10).until(lambda d: "find=image.json" in d.current_url)
    for _ in range(12):
        press(Keys.TAB)
        if driver.switch_to.active_element.text.endswith("image.json"):
            break
    press(Keys.ENTER)
    expect("image.json")
    assert driver.title == "Nachklang: what implementations do"
    # On a telephone no view is wider than its window: what is wide scrolls in its own box.
    driver.set_window_size(390, 844)
    for view in ("#/", "#/implementation/trailing-comma-taken", "#/implementation/sound/trailing-comma-taken", "#/together", "#/questions", "#/causes", "#/cases", "#/case/0"):
        driver.get(pathlib.Path(sys.argv[1]).resolve().as_uri() + view)
        heading = driver.find_element(By.TAG_NAME, "h1")
        widths = driver.execute_script("return [document.documentElement.scrollWidth, document.documentElement.clientWidth]")
        assert widths[0] <= widths[1], (view, heading.text, widths)
finally:
    driver.quit()
