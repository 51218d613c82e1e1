# frozen_string_literal: true

require "capybara/rspec"
require "selenium-webdriver"

# Debian's Chromium and its driver; nothing is ever downloaded.
ENV["SE_OFFLINE"] = "true"
ENV["SE_AVOID_STATS"] = "true"

CHROMIUM_FLAGS = %w[--headless=new --no-sandbox --disable-gpu --disable-dev-shm-usage --disable-quic --no-first-run --no-default-browser-check
                    --disable-background-networking --disable-component-update --disable-sync --disable-extensions --disable-domain-reliability
                    --mute-audio --hide-scrollbars --force-device-scale-factor=1 --lang=en-US --window-size=1280,943].freeze

Capybara.register_driver(:chromium) do |app|
  options = Selenium::WebDriver::Chrome::Options.new(binary: "/usr/bin/chromium", args: CHROMIUM_FLAGS, logging_prefs: { browser: "ALL" })
  Capybara::Selenium::Driver.new(app, browser: :chrome, options: options, service: Selenium::WebDriver::Service.chrome(path: "/usr/bin/chromedriver"))
end
Capybara.default_driver = :chromium
Capybara.run_server = false
Capybara.default_max_wait_time = 60
Capybara.default_retry_interval = 0.1 # each look costs the page and the machine something
Capybara.enable_aria_label = true

RSpec.shared_context "with a browser" do
  let(:application) { RunningApplication.shared }
  let(:show_file) { "clean.json" }

  before { application.fresh(show_file) if application == RunningApplication.shared }

  # What a page could not live with stands in the browser's log, though nobody may have seen it: with the names of the parts (Boundary), or
  # with the place in the script.
  after do
    troubles = page.driver.browser.logs.get(:browser).map(&:message).grep(/Uncaught|cannot be shown|Content Security/)
    raise troubles.join("\n") if troubles.any?
  ensure
    Capybara.reset_sessions!
  end

  def open_place(place, title = "Lantern Quay")
    visit("#{application.url}/#/#{place}")
    expect(page).to have_css("nav a[aria-current=page]", text: /#{place.tr('-', ' ')}/i)
    expect(page).to have_css("header", text: title)
  end

  # Where a person's keys go: to whatever has the focus.
  def keys(*strokes) = strokes.each { |stroke| page.driver.browser.switch_to.active_element.send_keys(*Array(stroke)) }

  def in_second_browser(&) = Capybara.using_session(:second, &)

  # A cell of the strand sheet, such as "desk/ch/4".
  def cell(point) = find("[data-port='#{point}']")

  def show = application.get("/api/show")
  def setting(kind, number) = show["#{kind}s"].find { |one| one["number"] == number }

  # Waits until the plan is so.
  def settle(what, &) = Tools.wait_until(60, what, &)

  def choose(label, option)
    find_field(label).send_keys([:control, "a"], option)
    find("[role=option]", text: option, match: :first).click
  end

  # One of a list that opens from a field.
  def pick(label, option)
    find(".MuiFormControl-root:has([role=combobox])", text: /\A#{label}\b/).find("[role=combobox]").click
    find("[role=option]", text: option, exact_text: true).click
  end

  def desk_dialog
    find("header button", text: /Desk|Another desk/).click
    expect(page).to have_css("[role=dialog]", text: "Plan and desk")
  end
end
