# frozen_string_literal: true

RSpec.describe Loomshuttle::Web::RequestLog, :folder do
  include_context "with the API"

  def told(&)
    lines = []
    allow(Loomshuttle::Runtime::Log.now).to receive(:info) { |line| lines << line }
    yield
    lines
  end

  it "sees every change with who asked for it, and no look" do
    header("X-Loomshuttle-Who", "Ada")
    lines = told do
      get("/api/show")
      tell("/api/edits", settings: { "channel/1/name" => "Tuba" })
      tell("/api/steps/preview", kind: "flip", options: { to: "take" })
      tell("/api/undo", {})
    end
    expect(lines).to eq(["Ada: POST /api/edits", "Ada: POST /api/undo"])
  end

  it "stands before all that changes anything" do
    routes = %w[POST PUT DELETE].flat_map { |verb| Loomshuttle::Web::App.routes.fetch(verb).map { |pattern, *| [verb, pattern.to_s.gsub(/:\w+/, "1")] } }
    answers = {}
    lines = told do
      routes.each do |verb, path|
        custom_request(verb, path, {}, input: "{}", "CONTENT_TYPE" => verb == "PUT" ? "application/octet-stream" : "application/json")
        answers[path] = last_response.status
      end
    end
    expect(routes.size).to be > 30
    # What the contract keeps out is of no use to anybody; everything else is told.
    silent = answers.reject { |path, _| described_class::LOOKS.include?(path) || lines.any? { |line| line.end_with?(" #{path}") } }
    expect(silent.values.uniq).to eq([400]), silent.to_s
    expect(lines).to include(*%w[/api/undo /api/take-playback/stop /api/bin/empty /api/presets/1].map { |path| end_with(path) })
  end
end
