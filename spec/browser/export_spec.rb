# frozen_string_literal: true

# Leaving with a take, while the application is restarted under it.
RSpec.describe "Exporting a take", type: :feature do
  include_context "with a browser"

  def jobs = application.get("/api/exports")
  def kill(part) = application.pids(part).each { |pid| Process.kill(:KILL, pid) }

  it "goes on after web and porter were killed in the middle, and the ZIP is whole" do
    take = application.take(application.capture("name" => "Leave", "frames" => 5 * 48_000))
    application.pids("porter").each { |pid| Process.kill(:STOP, pid) } # so that it is surely under way
    open_place("capture")
    find(".capture-take-line", text: "Leave").click
    click_button("Export")
    expect(page).to have_css(".joblist-jobs li", text: /Leave\s*(waits|in progress)/)
    kill("web")
    kill("porter")
    Tools.wait_until(60, "the application to be back") { application.well? }
    expect(page).to have_link(text: /Download/)
    job = jobs.find { |one| one["number"] == take["number"] }
    expect(job).to include("state" => "done", "error" => nil)
    expect(Tools.run("unzip", "-t", job["result"])).to include("No errors detected")
    fetched = Net::HTTP.get_response(URI("#{application.url}/api/exports/#{job['id']}/file"))
    expect([fetched.code, fetched.body.bytesize]).to eq(["200", File.size(job["result"])])
  end

  it "takes a part that is chosen in the picture, of some tracks, as take and track are called by then" do
    take = application.take(application.capture("name" => "Choose", "frames" => 4 * 48_000))
    open_place("capture")
    find(".capture-take-line", text: "Choose").click
    within("[role=dialog]") { fill_in("Name", with: "日暮れ", exact: true) }
    pick("Track", "4 Fiddle")
    fill_in("Name of track 4", with: "Старая скрипка")
    keys(:enter)
    expect(page).to have_css("[role=combobox]", text: "4 Старая скрипка")
    picture = find("canvas.capture-waveform").native
    page.driver.browser.action.move_to(picture, -picture.size.width / 4, 0).click_and_hold.move_by(picture.size.width / 2, 0).release.perform
    expect(page).to have_css(".look-row", text: "00:01.0 to 00:03.0 selected")
    pick("Part", "the selection, 00:02.0")
    find(".MuiFormControl-root:has([role=combobox])", text: /\ATracks/).find("[role=combobox]").click
    ["1 Tuba", "4 Старая скрипка"].each { |name| find("[role=option]", text: name, exact_text: true).click }
    keys(:escape)
    click_button("Export")
    expect(page).to have_link(text: /Download/)
    zip = jobs.find { |one| one["number"] == take["number"] }["result"]
    files = Zip::File.open(zip) { |one| one.map { |entry| File.basename(entry.name.dup.force_encoding("UTF-8")) }.grep(/wav\z/) }
    expect(files).to contain_exactly(/\A日暮れ \d+ 01 Tuba\.wav\z/, /\A日暮れ \d+ 04 Старая скрипка\.wav\z/)
    manifest = JSON.parse(Zip::File.open(zip) { |one| one.glob("**/take.json").first.get_input_stream.read })
    expect(manifest["frames"]).to be_within(700).of(2 * 48_000)
  end

  it "is ended when somebody presses End, and cleared away" do
    application.take(application.capture("name" => "Not that one", "frames" => 48_000))
    application.pids("porter").each { |pid| Process.kill(:STOP, pid) }
    open_place("capture")
    find(".capture-take-line", text: "Not that one").click
    click_button("Export")
    click_button("End")
    application.pids("porter").each { |pid| Process.kill(:CONT, pid) }
    expect(page).to have_css(".joblist-jobs li", text: "ended")
    find_button("Delete what was made of", exact: false).click
    click_button("Delete for good")
    expect(page).to have_no_css(".joblist-jobs li")
  end
end
