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
Capybara.default_max_wait_time = 8

RSpec.shared_context "with a browser" do
  let(:application) { RunningApplication.shared }

  after { Capybara.reset_sessions! }

  def open_place(place)
    visit("#{application.url}/#/#{place}")
    expect(page).to have_css("nav a[aria-current=page]", text: /#{place}/i)
    expect(page).to have_text("Lantern Quay")
  end

  # Where a person's keys go: to whatever has the focus.
  def keys(*strokes) = strokes.each { |stroke| page.driver.browser.switch_to.active_element.send_keys(*Array(stroke)) }

  def in_second_browser(&) = Capybara.using_session(:second, &)
end
