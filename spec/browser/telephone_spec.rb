# frozen_string_literal: true

# The interface on a telephone, 390 pixels wide: what is needed beside a stage is at hand, and nothing is beyond its edge.
RSpec.describe "The interface on a telephone", type: :feature do
  include_context "with a browser"

  let(:browser) { page.driver.browser }

  # What reaches beyond the right edge, and what scrolls sideways.
  let(:beyond) { browser.execute_script(<<~JS) }
    return [...document.querySelectorAll('body *')].filter((one) => {
      const box = one.getBoundingClientRect(), style = getComputedStyle(one);
      if (one.closest('[role=grid]') || one.querySelector('[role=grid]') || box.width === 0) return false;
      return box.right > innerWidth + 1 || (['auto', 'scroll'].includes(style.overflowX) && one.scrollWidth > one.clientWidth + 1);
    }).map((one) => `${one.tagName} ${one.className}`).concat(document.documentElement.scrollWidth > innerWidth ? ['the page'] : []);
  JS

  before { browser.execute_cdp("Emulation.setDeviceMetricsOverride", width: 390, height: 844, deviceScaleFactor: 1, mobile: true) }
  after { browser.execute_cdp("Emulation.clearDeviceMetricsOverride") }

  # The strand sheet alone is wider, and is moved within its place.
  { "rig" => "Device profiles…", "patch" => "Auto-patch…", "line-check" => "Start over", "capture" => "Capture", "soundcheck" => "Return to stage", "playback" => "Tonight",
    "outputs" => "Who hears what", "handover" => "Sheets and files" }.each do |place, needed|
    it "has all of #{place} within its width, and #{needed} at hand" do
      open_place(place)
      expect(page).to have_button(needed, disabled: :all)
      expect(beyond).to eq([])
    end
  end
end
