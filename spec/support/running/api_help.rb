# frozen_string_literal: true

require "committee"
require "rack/test"

# The API in this process, on the test database; every answer is checked by Committee against the OpenAPI file.
RSpec.shared_context "with the API" do
  include Rack::Test::Methods
  include Committee::Test::Methods

  let(:first_show) { straight }
  let(:desk_port) { 9 }
  let(:database) { TestDatabase.empty }
  let(:shows) { Loomshuttle::Store::Shows.new(database, CoreHelp::CATALOG) }
  let(:control) do
    shows.create({ name: "Test" }, first_show.settings)
    Loomshuttle::Web::Control.new(shows: shows, database: database, home: @folder, desk_port: desk_port).tap(&:start)
  end
  let(:app) { Loomshuttle::Web::App.guarded(control, hosts: ["127.0.0.1"]) }
  let(:committee_options) { Loomshuttle::Web::Contract.options }

  def request_object = last_request
  def response_data = [last_response.status, last_response.headers, last_response.body]

  before { header("Host", "127.0.0.1") }
  after { control.stop }

  def post_json(path, data = {}) = post(path, data.is_a?(String) ? data : JSON.generate(data), "CONTENT_TYPE" => "application/json")

  # @return [Object] the answer's JSON, of a status, and as the contract says
  def answer(status = 200)
    expect(last_response.status).to eq(status), last_response.body
    assert_response_schema_confirm(status)
    JSON.parse(last_response.body)
  end

  def ask(path) = get(path) && answer
  def tell(path, data = {}, status = 200) = post_json(path, data) && answer(status)
  def show = ask("/api/show")
end
